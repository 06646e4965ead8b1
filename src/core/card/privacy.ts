import { hostOf, purposeOf, type Detail, type PersonRecord } from '@/core/record';
import type { LineType } from '@/core/record/line-type';

/** Why a detail does not go out before somebody ticks it. */
export const PRIVACIES = [
  'birthday',
  'home',
  'mobile',
  'own label',
  'unmarked',
  'elsewhere',
  'profile',
  'nickname',
  'note',
  'own words',
  'said',
] as const;
export type Privacy = (typeof PRIVACIES)[number];

/** What the numbering plan tells of a number. Where its data is not at hand nothing is known. */
export type TypeOf = (number: string) => LineType;
const NOTHING_KNOWN: TypeOf = () => null;

/** Words of a label that say work, say home, or only name what it is, in the languages that phones write them in (from memory). */
const words = (list: string) => new Set(list.split(' '));
const WORK = words(
  'work office business company firm job professional switchboard reception desk arbeit büro buero geschäft geschäftlich ' +
    'dienst dienstlich firma zentrale empfang bureau travail pro professionnel société accueil werk kantoor zaak zakelijk receptie ' +
    'oficina trabajo empresa profesional recepción ufficio lavoro azienda professionale عمل العمل مكتب المكتب الشركة',
);
const HOME = words(
  'home private privat personal zuhause daheim zuhaus domicile maison privé privée personnel thuis prive casa particular ' +
    'privado privada privato privata منزل المنزل شخصي',
);
/** Somebody’s own people: a number of theirs is no firm’s, whatever its TYPE says. */
const FAMILY = words(
  'mum mom mother dad father wife husband son daughter sister brother family mama papa mutter vater frau mann oma opa maman femme ' +
    'mari moeder vader madre padre',
);
const NEUTRAL = words(
  'phone telephone tel mobile cell line direct main fax pager mail email e address number no the my our and web website site page ' +
    'telefon handy mobil nummer adresse téléphone ligne numéro telefoon mobiel adres nummer teléfono móvil línea dirección telefono ' +
    'cellulare linea indirizzo هاتف جوال رقم',
);

const wordsOf = (label: string): string[] =>
  label
    .normalize('NFC')
    .toLowerCase()
    .split(/[^\p{L}\p{M}]+/u)
    .filter(Boolean);
/** Whether a label says work and nothing of its holder's own: "Office, direct line" does, "Mum’s work" does not. */
function saysWork(label: string): boolean {
  const said = wordsOf(label);
  return said.some((word) => WORK.has(word)) && said.every((word) => WORK.has(word) || NEUTRAL.has(word));
}
const says = (list: ReadonlySet<string>, label: string): boolean => wordsOf(label).some((word) => list.has(word));
const isNeutral = (label: string): boolean => wordsOf(label).every((word) => NEUTRAL.has(word));

/** Words that stand in many firms' names, and forms of firms: no domain is known by them. */
const COMMON = words(
  'the and und et ltd limited gmbh inc llc llp plc corp corporation group holding holdings company co services service ' +
    'solutions consulting international partners partner verein stiftung kg ag sa bv nv srl spa www mail web com org net edu gov ac',
);

/** Second levels of country domains below which names are registered (from memory). */
const SUFFIXES = words('co com org net edu gov ac or ne go gob nom');

/** Letters and digits alone. */
const bare = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/**
 * Whether a host is the firm's own: the name that somebody registered is the firm's, or a telling word of it. A name below somebody
 * else's domain, as hosts of blogs and of mail give to anybody, is not.
 */
export function isOfFirm(host: string, record: PersonRecord): boolean {
  const registered = host.split('.').slice(0, -1).map(bare);
  // Below such a suffix as `co.uk` names are registered, too.
  while (SUFFIXES.has(registered.at(-1) ?? '')) registered.pop();
  const own = registered.at(-1) ?? '';
  return record.details.some((detail) => {
    if (detail.kind !== 'organisation') return false;
    const telling = detail.name
      .split(/[^\p{L}\p{N}]+/u)
      .map(bare)
      .filter((word) => word.length >= 4 && !COMMON.has(word));
    const names = new Set([bare(detail.name), telling.join(''), ...telling].filter((name) => name.length >= 3));
    return names.has(own);
  });
}

/** Where a profile stands that is for work: what its path begins with (common practice, no published source); no service is known by name. */
const WORK_PROFILE = /^\/(in|company|firm|pro|business|school)\//i;

function ofUses(detail: Extract<Detail, { uses: unknown }>): 'work' | 'home' | null {
  const uses: readonly string[] = detail.uses;
  if ((uses.includes('home') && !uses.includes('work')) || says(HOME, detail.label)) return 'home';
  if (says(FAMILY, detail.label)) return null;
  return uses.includes('work') || saysWork(detail.label) ? 'work' : null;
}

/**
 * Why a detail is not positively for work or public, so that it goes nowhere unless somebody ticks it or the audience is a private
 * one by name; null where it may go out. `typeOf` tells land lines. Source: common practice, no published source.
 */
export function privacyOf(detail: Detail, record: PersonRecord, typeOf: TypeOf = NOTHING_KNOWN): Privacy | null {
  switch (detail.kind) {
    case 'birthday':
    case 'nickname':
    case 'note':
      return detail.kind;
    case 'category':
      return 'note';
    case 'own':
      return 'own words';
    case 'said':
      return 'said';
    case 'phone':
    case 'email':
    case 'link':
    case 'address':
      return privacyOfUses(detail, record, typeOf);
    default:
      return null;
  }
}

function privacyOfUses(
  detail: Extract<Detail, { uses: unknown }>,
  record: PersonRecord,
  typeOf: TypeOf,
): Privacy | null {
  const use = ofUses(detail);
  if (use) return use === 'home' ? 'home' : null;
  if (detail.kind === 'link') {
    const purpose = purposeOf(detail);
    if (purpose === 'booking' || isOfFirm(hostOf(detail.url), record)) return null;
    if (purpose !== 'profile') return 'elsewhere';
    return WORK_PROFILE.test(URL.canParse(detail.url) ? new URL(detail.url).pathname : '') ? null : 'profile';
  }
  if (!isNeutral(detail.label)) return 'own label';
  if (detail.kind === 'email') return isOfFirm(detail.address.split('@')[1] ?? '', record) ? null : 'elsewhere';
  if (detail.kind === 'address') return 'unmarked';
  const type = typeOf(detail.number);
  if (type === 'mobile' || detail.uses.includes('mobile')) return 'mobile';
  return type === 'land' && !detail.uses.includes('emergency') ? null : 'unmarked';
}

/**
 * Whether it is private for that reason: it wears the warning colour wherever it is about to leave. What is in one's own words may be
 * anything, and how a name is said is no secret.
 */
export const isWarned = (privacy: Privacy | null | undefined): privacy is Privacy =>
  Boolean(privacy) && privacy !== 'own words' && privacy !== 'said';

/** Whether a detail is private. */
export const isPrivate = (detail: Detail, record: PersonRecord, typeOf?: TypeOf): boolean =>
  isWarned(privacyOf(detail, record, typeOf));
