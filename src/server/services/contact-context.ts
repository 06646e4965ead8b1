import type { ContactFileContext, VcardVersion } from '@/core/vcard';
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
  logo: card.logo && {
    base64: card.logo.toString('base64'),
    mediaType: card.logo[0] === 0x89 ? 'image/png' : 'image/jpeg',
  },
});
