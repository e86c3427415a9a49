import { createHmac } from "node:crypto";
import { chmodSync, existsSync, readFileSync, writeFileSync } from "node:fs";
import { keyFile, ownKey } from "./key-file";

/** Whoever had this key and a backup could try out all PINs, so it is kept apart by a command of its own. */
const keyName = "pin-key";
const keyForm = /^[0-9a-f]{64}$/;

/** A key that is none, or one that would be lost. */
export class PinKeyError extends Error {}

/** Makes tags of PINs with this installation's key (HMAC-SHA-256, RFC 2104); the key is made when it is first needed. */
export function pinTagger(dataFolder: string): (pin: string) => string {
  let key: Buffer | undefined;
  return (pin) =>
    createHmac("sha256", (key ??= Buffer.from(ownKey(dataFolder, keyName), "hex")))
      .update(pin, "utf8")
      .digest("base64url");
}

/** The key as text, to be kept in another place than the backups. */
export const savedPinKey = (dataFolder: string): string => `${ownKey(dataFolder, keyName)}\n`;

/** Puts a saved key in place; another one that is there is not overwritten unless that is said. */
export function restorePinKey(dataFolder: string, text: string, replace: boolean): void {
  const file = keyFile(dataFolder, keyName);
  const key = text.trim();
  if (!keyForm.test(key)) throw new PinKeyError("This is no key of PIN tags; expected 64 hexadecimal digits.");
  if (existsSync(file) && readFileSync(file, "utf8").trim() !== key && !replace)
    throw new PinKeyError("There is another key already. With --replace it is overwritten, and tags made with it can be told from no other any more.");
  writeFileSync(file, key, { mode: 0o600 });
  chmodSync(file, 0o600);
}
