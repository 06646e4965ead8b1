import { platesFor } from '@/core/house';
import type { LogoColours, Plates } from '@/core/look';
import { compute } from '@/server/compute';
import { keptOnceMade } from './kept';
import { pageBytes, type PublishedCard, type ShownPicture } from '@/server/services/publishing/load-published';

/** Logos whose colours are kept in mind in a process: a firm's is that of all its cards. */
const MOST_LOGOS = 2_000;
const colours = keptOnceMade<LogoColours>(MOST_LOGOS, () => 1);

const coloursOf = (of: string, picture: ShownPicture): Promise<LogoColours> =>
  colours(picture.hash, async () => {
    const { colours: found } = await compute('colours', { bytes: pageBytes(picture) }, { of, key: picture.hash });
    return found;
  });

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
