import { platesFor } from '@/core/house';
import type { LogoColours, Plates } from '@/core/look';
import { compute } from '@/server/compute';
import type { PublishedCard, ShownPicture } from '@/server/services/publishing/load-published';

/** Logos whose colours are kept in mind in a process: a firm's is that of all its cards. */
const MOST_LOGOS = 2_000;
const known = new Map<string, Promise<LogoColours>>();

function coloursOf(of: string, { hash, page }: ShownPicture): Promise<LogoColours> {
  const asked = known.get(hash);
  if (asked) return asked;
  if (known.size >= MOST_LOGOS) known.delete(known.keys().next().value!);
  const made = compute('colours', { bytes: page }, { of, key: hash }).then(({ colours }) => colours);
  known.set(hash, made);
  made.catch(() => known.delete(hash));
  return made;
}

/** What stands behind the logos of a card's page where they would vanish; nothing where it has none. Errors: TOO_BUSY, TOO_LABORIOUS. */
export async function platesOf({
  organisationId,
  composition,
  logo,
  logoByNight,
}: PublishedCard): Promise<Plates | undefined> {
  if (!logo) return undefined;
  const [day, night] = await Promise.all(
    [logo, logoByNight ?? logo].map((picture) => coloursOf(organisationId, picture)),
  );
  return platesFor(composition.look, day!, night!);
}
