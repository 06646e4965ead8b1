import { createHmac, createPrivateKey, X509Certificate } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { forgetAuthority, keepAuthority, passAuthority, type AuthorityRow } from '@/server/db/hand-outs/pass';
import { outsideTenants } from '@/server/db/pool';
import { settings } from '@/server/env';

/** Who signs passes, and what its certificate says that it signs; `standIn` where no phone trusts it. */
export type PassSigner = {
  signer: { certificate: string; key: string; secret: string | null; authority: string };
  passType: string;
  team: string;
  standIn: boolean;
};

const unreadable = () => new Refusal({ code: 'PASS_UNSIGNED', fault: 'unreadable' });

/** What a certificate is for, from its subject: the kind of pass (UID) and the team (OU). Errors: PASS_UNSIGNED. */
function namedBy({ subject }: X509Certificate): { passType: string; team: string } {
  const passType = /^UID=(.+)$/m.exec(subject)?.[1];
  const team = /^OU=(.+)$/m.exec(subject)?.[1];
  if (!passType || !team) throw new Refusal({ code: 'PASS_UNSIGNED', fault: 'names nothing' });
  return { passType, team };
}

const holds = ({ validFrom, validTo }: X509Certificate, now: number): boolean =>
  Date.parse(validFrom) <= now && now < Date.parse(validTo);

const CERTIFICATE = /-----BEGIN CERTIFICATE-----[\s\S]+?-----END CERTIFICATE-----/;
const KEY = /-----BEGIN (?:ENCRYPTED |RSA )?PRIVATE KEY-----[\s\S]+?-----END (?:ENCRYPTED |RSA )?PRIVATE KEY-----/;

/** The certificate of the settings. Error: PASS_UNSIGNED, whose sentence names no path. */
async function ownSigner(file: string, now: number): Promise<PassSigner> {
  const { PASS_AUTHORITY, PASS_CERTIFICATE_PASSWORD: secret = null } = settings();
  try {
    const [own, authority] = await Promise.all([readFile(file, 'utf8'), readFile(PASS_AUTHORITY!, 'utf8')]);
    const [certificate, key, above] = [
      CERTIFICATE.exec(own)?.[0],
      KEY.exec(own)?.[0],
      CERTIFICATE.exec(authority)?.[0],
    ];
    if (!certificate || !key || !above) throw unreadable();
    const read = new X509Certificate(certificate);
    const opened = createPrivateKey({ key, ...(secret ? { passphrase: secret } : {}) });
    if (!read.checkPrivateKey(opened) || !read.verify(new X509Certificate(above).publicKey)) throw unreadable();
    if (!holds(read, now)) throw new Refusal({ code: 'PASS_UNSIGNED', fault: 'ended' });
    return { signer: { certificate, key, secret, authority: above }, ...namedBy(read), standIn: false };
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw unreadable();
  }
}

/** What closes the stand-in's key. */
const standInSecret = (): string =>
  createHmac('sha256', settings().SESSION_SECRET).update('stand-in authority of passes').digest('base64url');

/** Whether a kept authority still holds and this process can open its key. */
function isGood({ certificate, key }: AuthorityRow, now: number): boolean {
  try {
    const read = new X509Certificate(certificate);
    return holds(read, now) && read.checkPrivateKey(createPrivateKey({ key, passphrase: standInSecret() }));
  } catch {
    return false;
  }
}

async function standIn(now: number): Promise<PassSigner> {
  let kept = await outsideTenants(passAuthority);
  if (kept && !isGood(kept, now)) {
    const old = kept;
    await outsideTenants((db) => forgetAuthority(db, old));
    kept = undefined;
  }
  if (!kept) {
    const made = await compute('pass authority', { secret: standInSecret(), now }, { of: 'installation' });
    kept = await outsideTenants((db) =>
      keepAuthority(db, { certificate: made.certificate, authority: made.authority, key: made.key }),
    );
  }
  const { certificate, authority, key } = kept;
  const signer = { certificate, authority, key, secret: standInSecret() };
  return { signer, ...namedBy(new X509Certificate(certificate)), standIn: true };
}

/** Who signs passes: the certificate of the settings, else a stand-in authority of this installation's own, made once. Errors: PASS_UNSIGNED, TOO_BUSY. */
export async function passSigner(clock: Clock): Promise<PassSigner> {
  const { PASS_CERTIFICATE } = settings();
  return PASS_CERTIFICATE ? ownSigner(PASS_CERTIFICATE, clock.now()) : standIn(clock.now());
}
