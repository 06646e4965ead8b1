import { createHash, createPrivateKey, createPublicKey, verify, X509Certificate } from 'node:crypto';
import forge from 'node-forge';

/** Who signs passes: certificate, its key and the authority's certificate between it and the root, as PEM; `secret` opens the key. */
export type Signer = { certificate: string; key: string; secret: string | null; authority: string };

const { oids } = forge.pki;

/** Text of what is binary, as the library has it: a letter a byte. */
const binary = (bytes: Buffer): string => bytes.toString('binary');

/** A detached signature over bytes (CMS SignedData, RFC 5652), with certificate, authority and the time of signing; DER. Error: a key or certificate that cannot be read. */
export function signDetached(bytes: Buffer, { certificate, key, secret, authority }: Signer, at: Date): Buffer {
  const opened = createPrivateKey({ key, ...(secret ? { passphrase: secret } : {}) });
  const signed = forge.pkcs7.createSignedData();
  signed.content = forge.util.createBuffer(binary(bytes));
  signed.addCertificate(certificate);
  signed.addCertificate(authority);
  signed.addSigner({
    key: forge.pki.privateKeyFromPem(opened.export({ type: 'pkcs1', format: 'pem' }).toString()),
    certificate,
    digestAlgorithm: oids.sha256!,
    authenticatedAttributes: [
      { type: oids.contentType!, value: oids.data! },
      { type: oids.messageDigest! },
      // The types want a text where the library takes a date.
      { type: oids.signingTime!, value: at as unknown as string },
    ],
  });
  signed.sign({ detached: true });
  return Buffer.from(forge.asn1.toDer(signed.toAsn1()).getBytes(), 'binary');
}

/** What a detached signature tells: whether it fits the bytes and its certificate, that was signed by the authority beside it; instants in ISO 8601. */
export type ReadSignature = {
  fits: boolean;
  chained: boolean;
  from: string;
  until: string;
  passType: string;
  team: string;
};

type Captured = {
  certificates: forge.asn1.Asn1[];
  signerInfos: forge.asn1.Asn1[];
};

const children = (of: forge.asn1.Asn1): forge.asn1.Asn1[] => of.value as forge.asn1.Asn1[];
const der = (of: forge.asn1.Asn1): Buffer => Buffer.from(forge.asn1.toDer(of).getBytes(), 'binary');

/** Reads a signature back from its bytes by the platform's own cryptography. */
export function readDetached(signature: Buffer, bytes: Buffer): ReadSignature {
  const message = forge.pkcs7.messageFromAsn1(forge.asn1.fromDer(binary(signature))) as unknown as {
    rawCapture: Captured & Record<string, unknown>;
    certificates: forge.pki.Certificate[];
  };
  const certificates = message.certificates.map((each) => new X509Certificate(forge.pki.certificateToPem(each)));
  const [info] = message.rawCapture.signerInfos;
  // SignerInfo: version, issuer and serial, digest algorithm, attributes [0], signature algorithm, signature.
  const [, , , attributes, , given] = children(info!);
  const digest = children(attributes!).find(
    (each) => forge.asn1.derToOid(children(each)[0]!.value as string) === oids.messageDigest,
  );
  const told = digest && Buffer.from(children(children(digest)[1]!)[0]!.value as string, 'binary');
  const leaf = certificates.find((each) => !each.ca) ?? certificates[0]!;
  // What is signed are the attributes as a SET, whatever tag they stand under (RFC 5652, 5.4).
  const set = forge.asn1.create(forge.asn1.Class.UNIVERSAL, forge.asn1.Type.SET, true, attributes!.value);
  const signedRight = verify(
    'sha256',
    der(set),
    createPublicKey(leaf.publicKey.export({ type: 'spki', format: 'pem' })),
    Buffer.from(given!.value as string, 'binary'),
  );
  const subject = forge.pki.certificateFromPem(leaf.toString()).subject;
  const named = (type: string): string => String(subject.attributes.find((each) => each.type === type)?.value ?? '');
  return {
    fits: signedRight && told !== undefined && told.equals(createHash('sha256').update(bytes).digest()),
    chained: certificates.some((each) => each !== leaf && leaf.checkIssued(each) && leaf.verify(each.publicKey)),
    from: new Date(leaf.validFrom).toISOString(),
    until: new Date(leaf.validTo).toISOString(),
    passType: named(UID),
    team: named(oids.organizationalUnitName!),
  };
}

/** The attribute of a subject that names the kind of pass: userId (RFC 4519, 2.39). */
export const UID = '0.9.2342.19200300.100.1.1';
