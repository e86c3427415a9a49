import { Button, createTheme, Input } from "@mantine/core";
import type { MantineColorsTuple } from "@mantine/core";

/** Ink-blue from pale to deep; the eighth is the accent of the light ground, the third that of the dark. */
const ink: MantineColorsTuple = ["#eef0f9", "#dde1f2", "#c3caee", "#a9b4f2", "#7f8cd0", "#5e6cb4", "#4a579f", "#34418f", "#2b3679", "#222b62"];
const madder: MantineColorsTuple = ["#fbeff1", "#f4dfe1", "#ebc0c7", "#ef94a3", "#cf5f74", "#b43f57", "#a23047", "#8d2438", "#781d2f", "#621726"];

export const theme = createTheme({
  primaryColor: "ink",
  primaryShade: { light: 7, dark: 3 },
  autoContrast: true,
  colors: { ink, madder },
  fontFamily: "var(--sans)",
  headings: { fontFamily: "var(--serif)", fontWeight: "600" },
  defaultRadius: 2,
  components: {
    // What explains a field stands below it, so that fields in a line stay in line.
    InputWrapper: Input.Wrapper.extend({ defaultProps: { inputWrapperOrder: ["label", "input", "description", "error"] } }),
    // The pale accent of the dark ground takes dark words: light-dark() chooses where the theme's own contrast cannot.
    Button: Button.extend({
      vars: (_theme, { variant }) => ({ root: variant === undefined || variant === "filled" ? { "--button-color": "light-dark(#ffffff, #191b20)" } : {} }),
    }),
  },
  respectReducedMotion: true,
  black: "#22252b",
  fontSizes: { xs: "12px", sm: "13.5px", md: "14px", lg: "16px", xl: "19px" },
});
