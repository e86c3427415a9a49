import type { RuleSettings } from "@/core/findings/settings";
import type { Actor } from "./record";

/** How rules judge here. `version` changes with every change. */
export interface KeptSettings {
  readonly version: number;
  readonly settings: RuleSettings;
  /** From this risk on a second person must confirm a waiver. */
  readonly secondPersonFrom: number;
}

/** How rules judge here. */
export interface RuleSettingsStore {
  /** Those in force; the usual ones where none were ever kept. */
  readonly current: () => Promise<KeptSettings>;
  /** Keeps settings in the place of those of a version; false, with nothing kept, where others were kept meanwhile. */
  readonly put: (kept: Omit<KeptSettings, "version">, instead: number, who: Actor, at: string) => Promise<boolean>;
}
