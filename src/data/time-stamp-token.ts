import { createHash, randomBytes } from "node:crypto";
import type * as asn1 from "asn1js";
import type { Certificate, ExtKeyUsage } from "pkijs";

const sha256 = "2.16.840.1.101.3.4.2.1";
const tstInfo = "1.2.840.113549.1.9.16.1.4";
const extendedKeyUsage = "2.5.29.37";
const timeStamping = "1.3.6.1.5.5.7.3.8";

const octets = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer;

/** Loaded when they are needed: most commands have nothing to do with time stamps. */
const libraries = async () => ({ asn1js: await import("asn1js"), pkijs: await import("pkijs") });

/** A request of RFC 3161 for a time stamp over a text; the nonce tells its answer from a repeated one. */
export async function stampRequest(text: string): Promise<{ readonly bytes: Uint8Array; readonly nonce: string }> {
  const { asn1js, pkijs } = await libraries();
  const nonce = Uint8Array.from([0x40, ...randomBytes(15)]);
  const request = new pkijs.TimeStampReq({
    version: 1,
    messageImprint: new pkijs.MessageImprint({
      hashAlgorithm: new pkijs.AlgorithmIdentifier({ algorithmId: sha256 }),
      hashedMessage: new asn1js.OctetString({ valueHex: octets(createHash("sha256").update(text).digest()) }),
    }),
    nonce: new asn1js.Integer({ valueHex: octets(nonce) }),
    certReq: true,
  });
  return { bytes: new Uint8Array(request.toSchema().toBER()), nonce: Buffer.from(nonce).toString("hex") };
}

/** What a time stamp says once it was checked, or why it says nothing. */
export type CheckedStamp = { readonly ok: true; readonly at: string; readonly nonce: string | undefined } | { readonly ok: false; readonly why: string };

const refused = (why: string): CheckedStamp => ({ ok: false, why });

/** Certificates of a PEM file. */
async function certificatesOf(pem: string): Promise<Certificate[]> {
  const { pkijs } = await libraries();
  return [...pem.matchAll(/-----BEGIN CERTIFICATE-----([^-]+)-----END CERTIFICATE-----/g)].map(([, base64 = ""]) =>
    pkijs.Certificate.fromBER(octets(Buffer.from(base64.replace(/\s/g, ""), "base64"))),
  );
}

const mayStamp = (certificate: Certificate): boolean =>
  certificate.extensions?.some(
    ({ extnID, parsedValue }) => extnID === extendedKeyUsage && (parsedValue as ExtKeyUsage | undefined)?.keyPurposes.includes(timeStamping),
  ) === true;

/**
 * Checks an answer of RFC 3161 (`TimeStampResp`): that it was granted, is over just this text, and is signed by a certificate for time stamps behind which one
 * of those that are trusted (`pem`) stands, as they were valid at its own time.
 */
export async function checkStamp(response: Uint8Array, text: string, pem: string): Promise<CheckedStamp> {
  try {
    const { pkijs } = await libraries();
    const { status, timeStampToken } = pkijs.TimeStampResp.fromBER(octets(response));
    const isGranted = status.status === pkijs.PKIStatus.granted || status.status === pkijs.PKIStatus.grantedWithMods;
    if (!isGranted || !timeStampToken) {
      const words = status.statusStrings?.map((one) => one.valueBlock.value).join(" ");
      return refused(`the authority refused it${words ? `: ${words}` : ""}`);
    }
    const signed = new pkijs.SignedData({ schema: timeStampToken.content as asn1.Sequence });
    const { eContentType, eContent } = signed.encapContentInfo;
    if (eContentType !== tstInfo || !eContent) return refused("it holds no time stamp");
    const info = pkijs.TSTInfo.fromBER(eContent.getValue());
    const { hashAlgorithm, hashedMessage } = info.messageImprint;
    const digest = createHash("sha256").update(text).digest();
    if (hashAlgorithm.algorithmId !== sha256 || !digest.equals(Buffer.from(hashedMessage.valueBlock.valueHexView))) return refused("it is over something else");
    const checked = await signed.verify({
      signer: 0,
      trustedCerts: await certificatesOf(pem),
      checkChain: true,
      checkDate: info.genTime,
      extendedMode: true,
      data: octets(Buffer.from(text)),
    });
    if (checked.signatureVerified !== true || checked.signerCertificateVerified !== true || !checked.signerCertificate)
      return refused("its signature does not hold, or nobody who is trusted stands behind it");
    if (!mayStamp(checked.signerCertificate)) return refused("it is signed by a certificate that is not for time stamps");
    return {
      ok: true,
      at: info.genTime.toISOString(),
      nonce: info.nonce && Buffer.from(info.nonce.valueBlock.valueHexView).toString("hex"),
    };
  } catch (error) {
    return refused(`it cannot be read, or does not hold (${error instanceof Error ? error.message.replace(/\.$/, "") : "unknown"})`);
  }
}
