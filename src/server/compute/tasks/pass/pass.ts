import { createHash } from 'node:crypto';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { ZipFile } from 'yazl';
import type { Composition } from '@/core/card';
import { iconSvg } from '@/core/face';
import { loadWords } from '@/core/messages';
import { plateFor } from '@/core/look';
import { writePass, type PassOrder } from '@/core/pass';
import type { Proof } from '@/core/proof';
import { provePass, type ReadPass } from '@/core/proof/pass';
import { shippedTypesetter } from '@/server/fonts';
import { coloursOf } from '../colours';
import { readDetached, signDetached, type Signer } from './sign';

/** A pass to make: what the card gives out, already in its house style, and who signs it. `now` in milliseconds. */
export type SignedPassOrder = Omit<PassOrder, 'passType' | 'team'> & {
  pictures: Record<'photo' | 'logo', Buffer | null>;
  signer: Signer;
  passType: string;
  team: string;
  withheld: string[];
  now: number;
};

export type MadePass = { bytes: Buffer; proof: Proof };

/** Pictures of a pass in its own points, each for screens of one, two and three pixels a point (the package format's published reference). */
const SCALES = [1, 2, 3] as const;
const ICON = 29;
const THUMBNAIL = 90;
const LOGO = { width: 160, height: 50 } as const;

const nameAt = (name: string, scale: number): string => (scale === 1 ? `${name}.png` : `${name}@${scale}x.png`);

type Files = Record<string, Buffer>;

/** The icon, the logo on the pass's own ground and the photo, at every scale. */
async function picturesOf(composition: Composition, { photo, logo }: SignedPassOrder['pictures']): Promise<Files> {
  const { band, sheet } = composition.look.palette;
  const icon = Buffer.from(iconSvg(composition, await shippedTypesetter()));
  const plate = logo && plateFor((await coloursOf({ bytes: logo })).colours, [band], sheet);
  const made = SCALES.flatMap((scale): [string, Promise<Buffer>][] => [
    [
      nameAt('icon', scale),
      sharp(icon)
        .resize(ICON * scale)
        .png({ palette: true })
        .toBuffer(),
    ],
    ...(logo ? [[nameAt('logo', scale), logoAt(logo, plate, scale)] as [string, Promise<Buffer>]] : []),
    ...(photo
      ? [
          [
            nameAt('thumbnail', scale),
            sharp(photo)
              .resize(THUMBNAIL * scale, THUMBNAIL * scale, { fit: 'cover', position: 'attention' })
              .png({ palette: true })
              .toBuffer(),
          ] as [string, Promise<Buffer>],
        ]
      : []),
  ]);
  return Object.fromEntries(await Promise.all(made.map(async ([name, bytes]) => [name, await bytes])));
}

async function logoAt(logo: Buffer, plate: string | null | undefined, scale: number): Promise<Buffer> {
  const [width, height] = [LOGO.width * scale, LOGO.height * scale];
  if (!plate) return sharp(logo).resize(width, height, { fit: 'inside' }).png().toBuffer();
  const rim = Math.round(height / 10);
  const inner = sharp(logo).resize(width - 2 * rim, height - 2 * rim, { fit: 'inside' });
  return inner
    .extend({ top: rim, bottom: rim, left: rim, right: rim, background: { r: 0, g: 0, b: 0, alpha: 0 } })
    .flatten({ background: plate })
    .png()
    .toBuffer();
}

const sha1 = (bytes: Buffer): string => createHash('sha1').update(bytes).digest('hex');

/** Makes a pass and proves it from its bytes: the signed container that a phone's own store of passes opens. */
export async function makePass(order: SignedPassOrder): Promise<MadePass> {
  await loadWords(order.language);
  const { composition, withheld, link, now } = order;
  const files: Files = {
    'pass.json': Buffer.from(JSON.stringify(writePass(order))),
    ...(await picturesOf(composition, order.pictures)),
  };
  const manifest = Buffer.from(
    JSON.stringify(Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, sha1(bytes)]))),
  );
  const signature = signDetached(manifest, order.signer, new Date(now));
  const bytes = await zipped({ ...files, 'manifest.json': manifest, signature }, new Date(now));
  const proof = provePass(readPass(bytes), { ...order, composition, withheld, link, now, bytes: bytes.length });
  return { bytes, proof };
}

async function zipped(files: Files, at: Date): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, bytes] of Object.entries(files)) zip.addBuffer(bytes, name, { mtime: at });
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** Reads a pass back from its bytes. */
export function readPass(bytes: Buffer): ReadPass {
  const files = Object.fromEntries(
    Object.entries(unzipSync(new Uint8Array(bytes))).map(([name, content]) => [name, Buffer.from(content)]),
  );
  const json = (name: string) => JSON.parse(files[name]?.toString('utf8') ?? '{}') as Record<string, unknown>;
  const manifest = json('manifest.json');
  const listed = new Set(['manifest.json', 'signature', ...Object.keys(manifest)]);
  return {
    names: Object.keys(files),
    wrong: [
      ...Object.keys(files).filter((name) => !listed.has(name)),
      ...Object.entries(manifest).flatMap(([name, hash]) => (files[name] && sha1(files[name]) === hash ? [] : name)),
    ],
    signature: readDetached(files.signature ?? Buffer.alloc(0), files['manifest.json'] ?? Buffer.alloc(0)),
    pass: json('pass.json'),
  };
}
