import type { RuleSettings } from "@/core/findings/settings";
import type { Actor } from "./record";

/** How rules judge here. `version` changes with every change. */
export interface KeptSettings {
  readonly version: number;
  readonly settings: RuleSettings;
  /** From this risk on a second person must confirm a waiver. */
  readonly secondPersonFrom: number;
}

/** Settings that somebody proposes in the place of those of a version, until a second person confirms them. */
export interface ProposedSettings extends Omit<KeptSettings, "version"> {
  readonly instead: number;
  /** Sign-in name of who proposes them. */
  readonly madeBy: string;
  readonly madeAt: string;
}

/** How rules judge here. */
export interface RuleSettingsStore {
  /** Those in force; the usual ones where none were ever kept. */
  readonly current: () => Promise<KeptSettings>;
  /** Proposes settings in the place of those of a version, and of those that were proposed before; false where others were kept meanwhile. */
  readonly propose: (kept: Omit<KeptSettings, "version">, instead: number, who: Actor, at: string) => Promise<boolean>;
  readonly proposed: () => Promise<ProposedSettings | undefined>;
  /** Drops what is proposed; false where nothing is. */
  readonly dropProposed: (who: Actor, at: string) => Promise<boolean>;
  /** Keeps settings, with which what was proposed is over, in the place of those of a version; false, with nothing kept, where others were kept meanwhile. */
  readonly put: (kept: Omit<KeptSettings, "version">, instead: number, who: Actor, at: string) => Promise<boolean>;
}
