import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { hexOf, LookSchema, seen, type Look } from '@/core/look';
import { cleanLine } from '@/core/record';
import { violatedUnique } from '@/server/db/failures';
import { deleteLook, insertLook, looksOf } from '@/server/db/house';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise } from './authorise';
import { readPicture } from './pictures';

export type KeptLook = { id: string; name: string; look: Look };

/** The looks that a person has put by. Error: NOT_ALLOWED. */
export async function listLooks(actor: Actor): Promise<KeptLook[]> {
  authorise(actor, 'look.keep');
  const rows = await inTenant(actor.organisationId, (tx) => looksOf(tx, actor.userId));
  return rows.map(({ id, name, look }) => ({ id, name, look: LookSchema.parse(look) }));
}

/** Puts a look by under a name; looks of single lines stay with their card. Errors: NOT_ALLOWED, TOO_MANY_LOOKS, LOOK_NAME_TAKEN. */
export async function keepLook(actor: Actor, input: { name: string; look: Look }, clock: Clock): Promise<KeptLook> {
  authorise(actor, 'look.keep');
  const kept = {
    id: randomUUID(),
    name: cleanLine(input.name).text.slice(0, LIMITS.label),
    look: { ...input.look, lines: {}, follows: [], overrides: [] },
  };
  try {
    await inTenant(actor.organisationId, async (tx) => {
      if ((await looksOf(tx, actor.userId)).length >= LIMITS.looks)
        throw new Refusal({ code: 'TOO_MANY_LOOKS', limit: LIMITS.looks });
      await insertLook(tx, {
        ...kept,
        organisation_id: actor.organisationId,
        user_id: actor.userId,
        created_at: new Date(clock.now()),
      });
      await writeDown(tx, actor, 'look.kept', { kind: 'look', id: kept.id }, clock);
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('looks_user') ? new Refusal({ code: 'LOOK_NAME_TAKEN' }) : error;
  }
  return kept;
}

/** Removes a look that was put by; cards that took it keep what they took. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeLook(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'look.keep');
  await inTenant(actor.organisationId, async (tx) => {
    if (!(await deleteLook(tx, actor.userId, id))) throw new Refusal({ code: 'NOT_FOUND' });
    await writeDown(tx, actor, 'look.removed', { kind: 'look', id }, clock);
  });
}

/** Side to which a picture is brought before its pixels are looked at: each is then about as large as a stroke of type. */
const SIDE = 96;

/** What a picture's pixels say: its strongest colours by how much of it they fill, its darkest and its lightest. */
export type PictureColours = { colours: string[]; darkest: string; lightest: string };

/** Colours of a picture of the organisation. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function coloursOfPicture(actor: Actor, hash: string): Promise<PictureColours> {
  const bytes = await readPicture(actor, hash);
  const { data, info } = await sharp(bytes)
    .resize(SIDE, SIDE, { fit: 'inside' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const groups = new Map<string, { count: number; sum: [number, number, number] }>();
  let [darkest, lightest] = [
    { sum: 766, hex: '#000000' },
    { sum: -1, hex: '#FFFFFF' },
  ];
  for (let at = 0; at < data.length; at += info.channels) {
    // What is nearly transparent shows the ground.
    if (data[at + 3]! < 128) continue;
    const rgb = [data[at]!, data[at + 1]!, data[at + 2]!] as [number, number, number];
    const sum = rgb[0] * 0.64 + rgb[1] * 2.15 + rgb[2] * 0.22;
    const hex = hexOf([rgb[0] / 255, rgb[1] / 255, rgb[2] / 255]);
    if (sum < darkest.sum) darkest = { sum, hex };
    if (sum > lightest.sum) lightest = { sum, hex };
    const key = rgb.map((each) => each >> 5).join();
    const group = groups.get(key) ?? { count: 0, sum: [0, 0, 0] };
    groups.set(key, {
      count: group.count + 1,
      sum: [group.sum[0] + rgb[0], group.sum[1] + rgb[1], group.sum[2] + rgb[2]],
    });
  }
  const colours = [...groups.values()]
    .map(({ count, sum }) => ({
      count,
      hex: hexOf([sum[0] / count / 255, sum[1] / count / 255, sum[2] / count / 255]),
    }))
    // White, black and greys are a brand's colour only where there is no other.
    .map((each) => ({ ...each, weight: each.count * (0.02 + seen(each.hex).chroma) }))
    .sort((a, b) => b.weight - a.weight)
    .map(({ hex }) => hex);
  return { colours: apart(colours).slice(0, 6), darkest: darkest.hex, lightest: lightest.hex };
}

/** Colours that differ enough to be told apart, the first ones kept. */
function apart(colours: string[]): string[] {
  const kept: string[] = [];
  for (const hex of colours) {
    const own = seen(hex);
    const near = kept.some((other) => {
      const { lightness, chroma, hue } = seen(other);
      const distance = Math.hypot(
        own.lightness - lightness,
        own.chroma * Math.cos(own.hue) - chroma * Math.cos(hue),
        own.chroma * Math.sin(own.hue) - chroma * Math.sin(hue),
      );
      return distance < 0.09;
    });
    if (!near) kept.push(hex);
  }
  return kept;
}
