import { VERSIONS, type ContactFileContext, type EmbeddedPicture, type VcardVersion } from '@/core/vcard';
import { publicUrlOf } from '@/server/env';

/** What a card's contact file says besides its lines: the same in the proof, for recipients and in an export. */
export const contactContext = (
  card: {
    cardId: string;
    organisationId: string;
    address: string | null;
    revised: string;
    photo: Buffer | null;
    logo: Buffer | null;
  },
  version: VcardVersion,
): ContactFileContext => ({
  version,
  uid: `urn:uuid:${card.cardId}`,
  revised: card.revised,
  source: card.address ? `${publicUrlOf(card.organisationId)}/c/${card.address}` : null,
  photo: card.photo && { base64: card.photo.toString('base64'), mediaType: 'image/jpeg' },
  logo: card.logo && filePicture(card.logo),
});

/** The same for every version. */
export const contactContexts = (card: Parameters<typeof contactContext>[0]): Record<VcardVersion, ContactFileContext> =>
  Object.fromEntries(VERSIONS.map((version) => [version, contactContext(card, version)])) as Record<
    VcardVersion,
    ContactFileContext
  >;

/** A picture as a contact file carries it; PNG is told by its first byte. */
export const filePicture = (bytes: Buffer): EmbeddedPicture => ({
  base64: bytes.toString('base64'),
  mediaType: bytes[0] === 0x89 ? 'image/png' : 'image/jpeg',
});
