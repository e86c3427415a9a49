import { createHash, randomBytes, webcrypto } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import * as asn1js from "asn1js";
import * as pkijs from "pkijs";
import { authorityCertificate } from "./authority-certificate";

const oid = {
  tstInfo: "1.2.840.113549.1.9.16.1.4",
  contentType: "1.2.840.113549.1.9.3",
  messageDigest: "1.2.840.113549.1.9.4",
  signingCertificateV2: "1.2.840.113549.1.9.16.2.47",
  timeStamping: "1.3.6.1.5.5.7.3.8",
  commonName: "2.5.4.3",
  basicConstraints: "2.5.29.19",
  keyUsage: "2.5.29.15",
  extendedKeyUsage: "2.5.29.37",
  sha256: "2.16.840.1.101.3.4.2.1",
  /** A policy of this stand-in, below the number that RFC 5612 keeps for examples. */
  policy: "1.3.6.1.4.1.32473.1.1",
};

const algorithm = { name: "ECDSA", namedCurve: "P-256" };
const pem = (kind: string, bytes: ArrayBuffer): string =>
  `-----BEGIN ${kind}-----\n${(
    Buffer.from(bytes)
      .toString("base64")
      .match(/.{1,64}/g) ?? []
  ).join("\n")}\n-----END ${kind}-----\n`;
const bytesOfPem = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(Buffer.from(text.replace(/-----[^-]+-----|\s/g, ""), "base64"));
const octets = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer;

interface Identity {
  readonly certificate: pkijs.Certificate;
  readonly key: webcrypto.CryptoKey;
}

function extensionsOf(isAuthority: boolean): pkijs.Extension[] {
  const extension = (extnID: string, critical: boolean, value: { readonly toBER: () => ArrayBuffer }) =>
    new pkijs.Extension({ extnID, critical, extnValue: value.toBER() });
  // Bits from the left: keyCertSign and cRLSign of an authority, digitalSignature of whoever stamps.
  const usage = new asn1js.BitString({ valueHex: Uint8Array.from([isAuthority ? 0x06 : 0x80]).buffer, unusedBits: isAuthority ? 1 : 7 });
  return [
    extension(oid.basicConstraints, true, new pkijs.BasicConstraints(isAuthority ? { cA: true } : {}).toSchema()),
    extension(oid.keyUsage, true, usage),
    ...(isAuthority ? [] : [extension(oid.extendedKeyUsage, true, new pkijs.ExtKeyUsage({ keyPurposes: [oid.timeStamping] }).toSchema())]),
  ];
}

/** A certificate of its own key, signed by an issuer or by itself; for thirty years. */
async function certify(name: string, issuer: Identity | undefined): Promise<Identity> {
  const keys = await webcrypto.subtle.generateKey(algorithm, true, ["sign", "verify"]);
  const certificate = new pkijs.Certificate();
  certificate.version = 2;
  certificate.serialNumber = new asn1js.Integer({ valueHex: octets(Uint8Array.from([0x40, ...randomBytes(15)])) });
  const named = new pkijs.AttributeTypeAndValue({ type: oid.commonName, value: new asn1js.Utf8String({ value: name }) });
  certificate.subject.typesAndValues.push(named);
  certificate.issuer = issuer ? issuer.certificate.subject : certificate.subject;
  const from = new Date();
  certificate.notBefore.value = new Date(from.getTime() - 60_000);
  // RFC 5280, 4.1.2.5: dates from 2050 on are written in this form.
  certificate.notAfter = new pkijs.Time({ type: pkijs.TimeType.GeneralizedTime, value: new Date(Date.UTC(from.getUTCFullYear() + 30, 0, 1)) });
  certificate.extensions = extensionsOf(!issuer);
  await certificate.subjectPublicKeyInfo.importKey(keys.publicKey);
  await certificate.sign(issuer ? issuer.key : keys.privateKey, "SHA-256");
  return { certificate, key: keys.privateKey };
}

/** Whoever stamps, kept in a folder from one start to the next; made at the first. */
async function identityIn(folder: string): Promise<Identity> {
  const [keyFile, certificateFile] = [path.join(folder, "stamps.key.pem"), path.join(folder, "stamps.pem")];
  try {
    const [key, certificate] = await Promise.all([readFile(keyFile, "utf8"), readFile(certificateFile, "utf8")]);
    return {
      key: await webcrypto.subtle.importKey("pkcs8", bytesOfPem(key), algorithm, false, ["sign"]),
      certificate: pkijs.Certificate.fromBER(bytesOfPem(certificate)),
    };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "ENOENT") throw error;
  }
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const authority = await certify("Invented Time Authority", undefined);
  const stamps = await certify("Invented Time Stamps", authority);
  await writeFile(path.join(folder, authorityCertificate), pem("CERTIFICATE", authority.certificate.toSchema(true).toBER()));
  await writeFile(certificateFile, pem("CERTIFICATE", stamps.certificate.toSchema(true).toBER()));
  await writeFile(keyFile, pem("PRIVATE KEY", await webcrypto.subtle.exportKey("pkcs8", stamps.key)), { mode: 0o600 });
  return stamps;
}

const refused = (words: string): Uint8Array => {
  const status = new pkijs.PKIStatusInfo({ status: pkijs.PKIStatus.rejection, statusStrings: [new asn1js.Utf8String({ value: words })] });
  return new Uint8Array(new pkijs.TimeStampResp({ status }).toSchema().toBER());
};

/** Answers a request of RFC 3161 for a time stamp over a SHA-256, or refuses it in words. */
async function answer(request: Uint8Array, { key, certificate }: Identity): Promise<Uint8Array> {
  let asked: pkijs.TimeStampReq;
  try {
    asked = pkijs.TimeStampReq.fromBER(octets(request));
  } catch {
    return refused("This is no request for a time stamp.");
  }
  const { hashAlgorithm, hashedMessage } = asked.messageImprint;
  if (hashAlgorithm.algorithmId !== oid.sha256 || hashedMessage.valueBlock.valueHexView.length !== 32) return refused("Only a SHA-256 is stamped here.");
  const info = new pkijs.TSTInfo({
    version: 1,
    policy: oid.policy,
    messageImprint: asked.messageImprint,
    serialNumber: new asn1js.Integer({ valueHex: octets(Uint8Array.from([0x40, ...randomBytes(15)])) }),
    genTime: new Date(),
    ...(asked.nonce && { nonce: asked.nonce }),
  });
  const content = info.toSchema().toBER();
  const sha256 = (bytes: ArrayBuffer): ArrayBuffer => octets(createHash("sha256").update(new Uint8Array(bytes)).digest());
  const certificateId = new asn1js.Sequence({
    value: [
      new asn1js.Sequence({
        value: [new asn1js.Sequence({ value: [new asn1js.OctetString({ valueHex: sha256(certificate.toSchema(true).toBER()) })] })],
      }),
    ],
  });
  const attribute = (type: string, value: asn1js.BaseBlock) => new pkijs.Attribute({ type, values: [value] });
  const signed = new pkijs.SignedData({
    version: 3,
    encapContentInfo: new pkijs.EncapsulatedContentInfo({ eContentType: oid.tstInfo, eContent: new asn1js.OctetString({ valueHex: content }) }),
    signerInfos: [
      new pkijs.SignerInfo({
        version: 1,
        sid: new pkijs.IssuerAndSerialNumber({ issuer: certificate.issuer, serialNumber: certificate.serialNumber }),
        signedAttrs: new pkijs.SignedAndUnsignedAttributes({
          type: 0,
          attributes: [
            attribute(oid.contentType, new asn1js.ObjectIdentifier({ value: oid.tstInfo })),
            attribute(oid.messageDigest, new asn1js.OctetString({ valueHex: sha256(content) })),
            attribute(oid.signingCertificateV2, certificateId),
          ],
        }),
      }),
    ],
    certificates: [certificate],
  });
  await signed.sign(key, 0, "SHA-256", content);
  const token = new pkijs.ContentInfo({ contentType: pkijs.ContentInfo.SIGNED_DATA, content: signed.toSchema(true) });
  const response = new pkijs.TimeStampResp({ status: new pkijs.PKIStatusInfo({ status: pkijs.PKIStatus.granted }), timeStampToken: token });
  return new Uint8Array(response.toSchema().toBER());
}

/** A request is some hundred bytes. */
const largest = 10_000;

/** A small authority for time stamps by RFC 3161, over HTTP on loopback; its keys lie in the folder. Its time is this machine's, which proves nothing. */
export async function startTimestampAuthority(folder: string, port: number): Promise<{ readonly port: number; readonly stop: () => Promise<void> }> {
  const identity = await identityIn(folder);
  const server = createServer((request, response) => {
    const pieces: Buffer[] = [];
    let length = 0;
    request.on("data", (piece: Buffer) => {
      length += piece.length;
      if (length > largest) request.destroy();
      else pieces.push(piece);
    });
    request.on("end", () => {
      if (request.method !== "POST" || request.headers["content-type"] !== "application/timestamp-query") {
        response.writeHead(400).end("Expected a request of RFC 3161, posted as application/timestamp-query.");
        return;
      }
      answer(Buffer.concat(pieces), identity).then(
        (bytes) => response.writeHead(200, { "content-type": "application/timestamp-reply" }).end(bytes),
        () => response.writeHead(500).end("The time stamp could not be made."),
      );
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", resolve);
  });
  return { port: (server.address() as AddressInfo).port, stop: () => new Promise((resolve) => server.close(() => resolve())) };
}
