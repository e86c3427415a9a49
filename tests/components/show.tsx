import { jest } from "@jest/globals";
import { MantineProvider } from "@mantine/core";
import { Notifications, notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { configure, render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { AppRouterContext } from "next/dist/shared/lib/app-router-context.shared-runtime";
import type { AppRouterInstance } from "next/dist/shared/lib/app-router-context.shared-runtime";
import type { ReactNode } from "react";
import { theme } from "@/ui/theme";

// What has to show shows some time: how soon is not what a test says, least of all on a busy machine.
configure({ asyncUtilTimeout: 20_000 });

/** What the browser has and the imitated one has not, as far as the components ask for it. */
function completeBrowser(): void {
  window.matchMedia = (query) =>
    ({ matches: false, media: query, addEventListener: () => undefined, removeEventListener: () => undefined }) as unknown as MediaQueryList;
  window.ResizeObserver = class {
    observe(): void {}
    unobserve(): void {}
    disconnect(): void {}
  };
  // What is cloned here is plain data.
  window.structuredClone = <T,>(value: T) => JSON.parse(JSON.stringify(value)) as T;
  Element.prototype.scrollIntoView = () => undefined;
  window.scrollTo = () => undefined;
  Object.defineProperty(document, "fonts", { configurable: true, value: new EventTarget() });
  // Nothing is laid out: everything has the size of what a window shows of a list.
  Object.defineProperties(Element.prototype, {
    clientWidth: { configurable: true, get: () => 1100 },
    clientHeight: { configurable: true, get: () => 620 },
  });
}

/** Answers what is fetched: by the path and query of each address, what it gives as JSON; undefined is an answer with the status 500. */
export type Answers = (address: string) => unknown;

/** Shows a component as a page would, with a router that goes nowhere; gives who uses it, where it led to, and what was fetched. */
export function show(element: ReactNode, answers: Answers = () => undefined) {
  completeBrowser();
  // Notices are kept outside of what is shown, so that those of an earlier test would still be there.
  notifications.clean();
  const went: string[] = [];
  const asked: string[] = [];
  window.fetch = (input) => {
    const address = typeof input === "string" ? input : input instanceof URL ? input.href : input.url;
    asked.push(address);
    const answer = answers(address);
    return Promise.resolve({ ok: answer !== undefined, status: answer === undefined ? 500 : 200, json: () => Promise.resolve(answer) } as Response);
  };
  const router = {
    push: (href: string) => void went.push(href),
    replace: (href: string) => void went.push(href),
    refresh: jest.fn(),
    prefetch: () => undefined,
    back: () => undefined,
    forward: () => undefined,
  } as unknown as AppRouterInstance;
  const around = (inner: ReactNode): ReactNode => (
    <AppRouterContext.Provider value={router}>
      <QueryClientProvider client={new QueryClient()}>
        <MantineProvider theme={theme} env="test">
          <Notifications />
          {inner}
        </MantineProvider>
      </QueryClientProvider>
    </AppRouterContext.Provider>
  );
  const shown = render(around(element));
  return { ...shown, user: userEvent.setup(), went, asked, again: (next: ReactNode) => shown.rerender(around(next)) };
}
