import { generateKeyPair, randomBytes } from 'node:crypto';
import { promisify } from 'node:util';
import forge from 'node-forge';
import type { Signer } from './sign';
import { UID } from './sign';

const YEAR_MS = 365 * 86_400_000;
const keys = promisify(generateKeyPair);

/** What the stand-in authority says that it signs, and for whom. */
const STAND_IN = { passType: 'pass.example.heathland.card', team: 'STANDIN000' } as const;

const named = (name: string): forge.pki.CertificateField[] => [
  { shortName: 'CN', value: name },
  { shortName: 'O', value: 'Heathland stand-in' },
];

/**
 * A serial number of random bytes, as hexadecimal: positive (RFC 5280, 4.1.2.2), and its first byte neither zero nor negative, so that DER writes it
 * as it stands (X.690, 8.3.2; readers refuse an integer with padding).
 */
export function serialNumber(random: Uint8Array = randomBytes(12)): string {
  const [first = 0, ...rest] = random;
  return Buffer.from([(first & 0x7f) | 0x40, ...rest]).toString('hex');
}

/** A certificate for a public key, good from yesterday on for so many years. */
function certificateOf(publicKey: string, years: number, at: number): forge.pki.Certificate {
  const made = forge.pki.createCertificate();
  made.publicKey = forge.pki.publicKeyFromPem(publicKey);
  made.serialNumber = serialNumber();
  made.validity.notBefore = new Date(at - 86_400_000);
  made.validity.notAfter = new Date(at + years * YEAR_MS);
  return made;
}

/**
 * A stand-in for the authority whose certificates phones trust: its own root, and a certificate for a year with a key that `secret` opens. A phone
 * opens no pass of it; everything else about a pass is as it will be.
 */
export async function standInAuthority({ secret, now }: { secret: string; now: number }): Promise<Signer> {
  const pair = { modulusLength: 2_048, publicKeyEncoding: { type: 'spki', format: 'pem' } } as const;
  const plain = { type: 'pkcs1', format: 'pem' } as const;
  const closed = { type: 'pkcs8', format: 'pem', cipher: 'aes-256-cbc', passphrase: secret } as const;
  const root = await keys('rsa', { ...pair, privateKeyEncoding: plain });
  const leaf = await keys('rsa', { ...pair, privateKeyEncoding: closed });
  const rootKey = forge.pki.privateKeyFromPem(root.privateKey);
  const authority = certificateOf(root.publicKey, 10, now);
  authority.setSubject(named('Heathland stand-in authority'));
  authority.setIssuer(authority.subject.attributes);
  authority.setExtensions([
    { name: 'basicConstraints', cA: true, critical: true },
    { name: 'keyUsage', keyCertSign: true, critical: true },
  ]);
  authority.sign(rootKey, forge.md.sha256.create());
  const certificate = certificateOf(leaf.publicKey, 1, now);
  certificate.setSubject([
    { type: UID, value: STAND_IN.passType },
    ...named('Heathland stand-in for passes'),
    { shortName: 'OU', value: STAND_IN.team },
  ]);
  certificate.setIssuer(authority.subject.attributes);
  certificate.setExtensions([
    { name: 'basicConstraints', cA: false },
    { name: 'keyUsage', digitalSignature: true, critical: true },
  ]);
  certificate.sign(rootKey, forge.md.sha256.create());
  const [ofLeaf, ofRoot] = [certificate, authority].map((each) => forge.pki.certificateToPem(each));
  return { certificate: ofLeaf!, key: leaf.privateKey, secret, authority: ofRoot! };
}
