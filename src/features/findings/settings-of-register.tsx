"use client";

import { Button, NumberInput, Select, TextInput, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { CardFormat, DutySide } from "@/core/findings/settings";
import type { SettingsSheet } from "@/operations/findings/rule-settings";
import sheet from "@/ui/sheet.module.css";
import { titleOfRule } from "../words/findings";
import { withDuties, without, withSite } from "./change-settings";
import type { SectionProps } from "./settings-sections";

/** What in the register settings choose from, as the choices of a field. */
const choicesOf = (named: readonly { readonly id: string; readonly name: string }[]) => named.map(({ id, name }) => ({ value: id, label: name }));

export function Sites({ shown, settings, set, mayEdit }: SectionProps & { readonly shown: SettingsSheet }) {
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Sites</h2>
      <p className={sheet.sub}>
        Of a country it is known which public holidays it has. Business hours are Monday to Friday from 7 to 19, but on public holidays, unless a schedule is
        taken for them; a change of the schedule later does not change them.
      </p>
      <table className={sheet.table}>
        <tbody>
          {shown.sites.map(({ id, name }) => {
            const site = settings.sites?.[id] ?? {};
            const { country: _, ...withoutCountry } = site;
            const { business: __, ...withoutBusiness } = site;
            const taken = shown.schedules.find(({ rows }) => JSON.stringify(rows) === JSON.stringify(site.business));
            return (
              <tr key={id}>
                <td style={{ width: "38%" }}>{name}</td>
                <td>
                  <div style={{ display: "flex", gap: 8 }}>
                    <TextInput
                      size="xs"
                      w={112}
                      label="Country"
                      placeholder="AT"
                      maxLength={2}
                      disabled={!mayEdit}
                      value={site.country ?? ""}
                      onChange={({ currentTarget: { value } }) =>
                        set(withSite(settings, id, value === "" ? withoutCountry : { ...withoutCountry, country: value.toUpperCase() }))
                      }
                    />
                    <Select
                      size="xs"
                      w={232}
                      label="Business hours are those of"
                      placeholder={site.business && !taken ? "hours of their own" : "Mon–Fri 07–19"}
                      clearable
                      searchable
                      disabled={!mayEdit}
                      value={taken?.id ?? null}
                      data={choicesOf(shown.schedules)}
                      onChange={(schedule) => {
                        const rows = shown.schedules.find((one) => one.id === schedule)?.rows;
                        set(withSite(settings, id, rows ? { ...withoutBusiness, business: rows } : withoutBusiness));
                      }}
                    />
                  </div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

/** Takes a row of a list away. */
const LeaveOut = ({ leave }: { readonly leave: () => void }) => (
  <UnstyledButton className={sheet.plain} onClick={leave}>
    Leave out
  </UnstyledButton>
);

/** What something that is to be added is called; no two of a list are called the same. */
function NewName({
  label,
  isTaken,
  name,
  set,
}: {
  readonly label: string;
  readonly isTaken: boolean;
  readonly name: string;
  readonly set: (name: string) => void;
}) {
  return (
    <TextInput
      size="xs"
      w={180}
      label={label}
      error={isTaken && "There is one of this name."}
      value={name}
      onChange={(event) => set(event.currentTarget.value)}
    />
  );
}

const sideText = (side: DutySide): string => (side.area === undefined ? `level ${side.level}` : `area ${side.area}`);
const sideOf = (text: string): DutySide => (text.startsWith("area ") ? { area: text.slice(5) } : { level: text.slice(6) });

export function Duties({ shown, settings, set, mayEdit }: SectionProps & { readonly shown: SettingsSheet }) {
  const [name, setName] = useState("");
  const [a, setA] = useState<string | null>(null);
  const [b, setB] = useState<string | null>(null);
  const duties = settings.duties ?? [];
  const sides = [
    { group: "Areas", items: shown.areas.map(({ id, name: label }) => ({ value: `area ${id}`, label })) },
    { group: "Levels", items: shown.levels.map(({ id, name: label }) => ({ value: `level ${id}`, label })) },
  ];
  const nameOf = (side: DutySide): string => sides.flatMap(({ items }) => items).find(({ value }) => value === sideText(side))?.label ?? sideText(side);
  const isTaken = duties.some(({ id }) => id === name.trim());
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Duties that nobody should have both of</h2>
      <table className={sheet.table}>
        <tbody>
          {duties.map((duty) => (
            <tr key={duty.id}>
              <td style={{ width: "38%" }}>{duty.name ?? duty.id}</td>
              <td>
                {nameOf(duty.a)} and {nameOf(duty.b)}
              </td>
              <td>
                {mayEdit && (
                  <LeaveOut
                    leave={() =>
                      set(
                        withDuties(
                          settings,
                          duties.filter(({ id }) => id !== duty.id),
                        ),
                      )
                    }
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayEdit && (
        <div style={{ display: "flex", gap: 8, alignItems: "end", marginTop: 8 }}>
          <NewName label="Called" isTaken={isTaken} name={name} set={setName} />
          <Select size="xs" w={180} label="One side" searchable value={a} data={sides} onChange={setA} />
          <Select size="xs" w={180} label="The other side" searchable value={b} data={sides} onChange={setB} />
          <Button
            size="xs"
            variant="default"
            disabled={name.trim() === "" || isTaken || a === null || b === null}
            onClick={() => {
              if (a === null || b === null) return;
              set(withDuties(settings, [...duties, { id: name.trim(), a: sideOf(a), b: sideOf(b) }]));
              setName("");
              setA(null);
              setB(null);
            }}
          >
            Add the pair
          </Button>
        </div>
      )}
    </section>
  );
}

/** Card formats, with the greatest facility code and number that each can hold. */
export function Formats({ settings, set, mayEdit }: SectionProps) {
  const [name, setName] = useState("");
  const [code, setCode] = useState<number>();
  const [number, setNumber] = useState<number>();
  const { formats = {}, ...rest } = settings;
  const put = (next: Readonly<Record<string, CardFormat>>): void => set(Object.keys(next).length === 0 ? rest : { ...rest, formats: next });
  const isTaken = Object.hasOwn(formats, name.trim());
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Card formats</h2>
      <p className={sheet.sub}>The open format of 26 bits is known: facility codes to 255, numbers to 65,535.</p>
      <table className={sheet.table}>
        <tbody>
          {Object.entries(formats).map(([format, greatest]) => (
            <tr key={format}>
              <td style={{ width: "38%" }}>{format}</td>
              <td>
                facility codes to {greatest.facilityCode.toLocaleString("en-GB")}, numbers to {greatest.number.toLocaleString("en-GB")}
              </td>
              <td>{mayEdit && <LeaveOut leave={() => put(Object.fromEntries(Object.entries(formats).filter(([one]) => one !== format)))} />}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayEdit && (
        <div style={{ display: "flex", gap: 8, alignItems: "end", marginTop: 8 }}>
          <NewName label="Format" isTaken={isTaken} name={name} set={setName} />
          <NumberInput
            size="xs"
            w={150}
            min={0}
            allowDecimal={false}
            hideControls
            label="Greatest facility code"
            value={code ?? ""}
            onChange={(value) => setCode(typeof value === "number" ? value : undefined)}
          />
          <NumberInput
            size="xs"
            w={150}
            min={0}
            allowDecimal={false}
            hideControls
            label="Greatest number"
            value={number ?? ""}
            onChange={(value) => setNumber(typeof value === "number" ? value : undefined)}
          />
          <Button
            size="xs"
            variant="default"
            disabled={name.trim() === "" || isTaken || code === undefined || number === undefined}
            onClick={() => {
              if (code === undefined || number === undefined) return;
              put({ ...formats, [name.trim()]: { facilityCode: code, number } });
              setName("");
              setCode(undefined);
              setNumber(undefined);
            }}
          >
            Add the format
          </Button>
        </div>
      )}
    </section>
  );
}

/** More sites than this are not shown pair by pair. */
const sitesPaired = 8;

/** The least minutes on the way from one site to another, of few sites. */
export function Ways({ shown, settings, set, mayEdit }: SectionProps & { readonly shown: SettingsSheet }) {
  const { sites } = shown;
  const pairs = sites.flatMap((from, i) => sites.slice(i + 1).map((to) => ({ from, to })));
  if (pairs.length === 0 || sites.length > sitesPaired) return null;
  const way = (from: string, to: string): number | undefined => settings.sites?.[from]?.minutesTo?.[to] ?? settings.sites?.[to]?.minutesTo?.[from];
  const setWay = (from: string, to: string, value: number | undefined): void => {
    // One way stands for both; what was said of the other is taken out.
    const cleared = [from, to].reduce((next, site) => {
      const { minutesTo, ...others } = next.sites?.[site] ?? {};
      const left = without(minutesTo, site === from ? to : from);
      return withSite(next, site, left ? { ...others, minutesTo: left } : others);
    }, settings);
    const own = cleared.sites?.[from] ?? {};
    set(value === undefined ? cleared : withSite(cleared, from, { ...own, minutesTo: { ...own.minutesTo, [to]: value } }));
  };
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Ways between sites</h2>
      <p className={sheet.sub}>The least minutes that a way takes. Of others the figure of “{titleOfRule("two-places")}” counts.</p>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 8 }}>
        {pairs.map(({ from, to }) => (
          <NumberInput
            key={`${from.id} ${to.id}`}
            size="xs"
            w={232}
            min={0}
            allowDecimal={false}
            hideControls
            disabled={!mayEdit}
            label={`${from.name} – ${to.name}`}
            value={way(from.id, to.id) ?? ""}
            onChange={(value) => setWay(from.id, to.id, typeof value === "number" ? value : undefined)}
          />
        ))}
      </div>
    </section>
  );
}
