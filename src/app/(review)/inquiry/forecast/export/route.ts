import { forecastTable } from "@/features/inquiry/forecast-file";
import { asking, longestForecastDays, nomade, usualForecastDays } from "@/wiring/nomade";
import { answerFile, isFileForm } from "@/wiring/web/answer-file";
import { numberInPath } from "@/wiring/web/number-in-path";
import { refuse, route } from "@/wiring/web/route";

/** Everything that begins or ends is named in a file. */
const allNamed = 1_000_000;

/** What comes by itself in the coming days, as a file. */
export const GET = route("ask", async (account, request) => {
  const { search, searchParams } = new URL(request.url);
  const as = searchParams.get("as") ?? "csv";
  if (!isFileForm(as)) return refuse("A forecast comes as csv or xlsx.", 400);
  const asked = searchParams.get("days");
  const days = asked === null ? usualForecastDays : numberInPath(asked);
  if (days === undefined || days > longestForecastDays) return refuse(`A forecast is of 1 to ${longestForecastDays} days.`, 400);
  const forecast = await asking.showForecast(account, undefined, days, allNamed);
  if (!forecast) return refuse("There is no register yet.", 404);
  await nomade.noteExport(account, { what: "answer", on: `snapshot ${(await nomade.latestSnapshot())?.id}`, query: search });
  return answerFile("nomade-forecast", { title: "Forecast", ...forecastTable(forecast) }, as);
});
