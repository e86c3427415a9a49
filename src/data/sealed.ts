import { createCipheriv, createDecipheriv, randomBytes } from "node:crypto";
import { ownKey } from "./key-file";

/** Whoever had this key and a backup could make the codes of everybody; without it a second factor is set up anew. */
const keyName = "seal-key";

/** Seals small secrets with this installation's key (AES-256-GCM), and opens them; what was not sealed with it opens as undefined. */
export function sealer(dataFolder: string) {
  let key: Buffer | undefined;
  const own = (): Buffer => (key ??= Buffer.from(ownKey(dataFolder, keyName), "hex"));
  return {
    seal: (secret: string): string => {
      const nonce = randomBytes(12);
      const cipher = createCipheriv("aes-256-gcm", own(), nonce);
      const sealed = Buffer.concat([cipher.update(secret, "utf8"), cipher.final()]);
      return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString("base64url");
    },
    open: (text: string): string | undefined => {
      const bytes = Buffer.from(text, "base64url");
      if (bytes.length < 28) return undefined;
      try {
        const decipher = createDecipheriv("aes-256-gcm", own(), bytes.subarray(0, 12));
        decipher.setAuthTag(bytes.subarray(12, 28));
        return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
      } catch {
        return undefined;
      }
    },
  };
}
