import type { Knex } from 'knex';
import * as firstSlice from './0001-first-slice';
import * as firmGround from './0002-firm-ground';
import * as contactFiles from './0003-contact-files';
import * as theTable from './0004-the-table';
import * as blocksAndRevisions from './0005-blocks-and-revisions';
import * as theLook from './0006-the-look';
import * as houseProofs from './0007-house-proofs';
import * as firmHold from './0008-firm-hold';
import * as ownRows from './0009-own-rows';
import * as signIn from './0010-sign-in';
import * as asShown from './0011-as-shown';
import * as crag from './0012-crag';
import * as company from './0013-company';
import * as deletion from './0014-deletion';
import * as lightInbox from './0015-light-inbox';
import * as companyDefaults from './0016-company-defaults';
import * as takeAlong from './0017-take-along';
import * as indexes from './0018-indexes';
import * as atScale from './0019-at-scale';
import * as toldAndAsked from './0020-told-and-asked';
import * as findings from './0021-findings';
import * as madeForms from './0022-made-forms';
import * as codes from './0023-codes';
import * as printed from './0024-printed';
import * as outbox from './0025-outbox';
import * as signature from './0026-signature';
import * as handOuts from './0027-hand-outs';
import * as messages from './0028-messages';
import * as contacts from './0029-contacts';
import * as sharing from './0030-sharing';
import * as codesInAdvance from './0031-codes-in-advance';
import * as mailPictures from './0032-mail-pictures';
import * as paper from './0033-paper';
import * as backdropAndPass from './0034-backdrop-and-pass';
import * as madeFiles from './0035-made-files';
import * as artworks from './0036-artworks';
import * as copies from './0037-copies';
import * as tags from './0038-tags';
import * as privacyMap from './0039-privacy-map';
import * as blankTags from './0040-blank-tags';
import * as roster from './0041-roster';
import * as offices from './0042-offices';
import * as packs from './0043-packs';
import * as invitations from './0044-invitations';
import * as teamLeaders from './0045-team-leaders';
import * as leads from './0046-leads';
import * as replies from './0047-replies';
import * as repliesCounted from './0048-replies-counted';

type Migration = { name: string; up: (knex: Knex) => Promise<void>; down: (knex: Knex) => Promise<void> };

const MIGRATIONS: Migration[] = [
  { name: '0001-first-slice', ...firstSlice },
  { name: '0002-firm-ground', ...firmGround },
  { name: '0003-contact-files', ...contactFiles },
  { name: '0004-the-table', ...theTable },
  { name: '0005-blocks-and-revisions', ...blocksAndRevisions },
  { name: '0006-the-look', ...theLook },
  { name: '0007-house-proofs', ...houseProofs },
  { name: '0008-firm-hold', ...firmHold },
  { name: '0009-own-rows', ...ownRows },
  { name: '0010-sign-in', ...signIn },
  { name: '0011-as-shown', ...asShown },
  { name: '0012-crag', ...crag },
  { name: '0013-company', ...company },
  { name: '0014-deletion', ...deletion },
  { name: '0015-light-inbox', ...lightInbox },
  { name: '0016-company-defaults', ...companyDefaults },
  { name: '0017-take-along', ...takeAlong },
  { name: '0018-indexes', ...indexes },
  { name: '0019-at-scale', ...atScale },
  { name: '0020-told-and-asked', ...toldAndAsked },
  { name: '0021-findings', ...findings },
  { name: '0022-made-forms', ...madeForms },
  { name: '0023-codes', ...codes },
  { name: '0024-printed', ...printed },
  { name: '0025-outbox', ...outbox },
  { name: '0026-signature', ...signature },
  { name: '0027-hand-outs', ...handOuts },
  { name: '0028-messages', ...messages },
  { name: '0029-contacts', ...contacts },
  { name: '0030-sharing', ...sharing },
  { name: '0031-codes-in-advance', ...codesInAdvance },
  { name: '0032-mail-pictures', ...mailPictures },
  { name: '0033-paper', ...paper },
  { name: '0034-backdrop-and-pass', ...backdropAndPass },
  { name: '0035-made-files', ...madeFiles },
  { name: '0036-artworks', ...artworks },
  { name: '0037-copies', ...copies },
  { name: '0038-tags', ...tags },
  { name: '0039-privacy-map', ...privacyMap },
  { name: '0040-blank-tags', ...blankTags },
  { name: '0041-roster', ...roster },
  { name: '0042-offices', ...offices },
  { name: '0043-packs', ...packs },
  { name: '0044-invitations', ...invitations },
  { name: '0045-team-leaders', ...teamLeaders },
  { name: '0046-leads', ...leads },
  { name: '0047-replies', ...replies },
  { name: '0048-replies-counted', ...repliesCounted },
];

/** The migrations in their order, as Knex wants to be told of them. A landed one is never changed. */
export const migrationSource: Knex.MigrationSource<Migration> = {
  getMigrations: async () => MIGRATIONS,
  getMigrationName: (migration) => migration.name,
  getMigration: async (migration) => migration,
};
