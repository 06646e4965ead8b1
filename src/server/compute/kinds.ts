import type { Kind } from './deadlines';

/**
 * What does each kind of work: a pure function of its input to its output, or to an iterator of outputs, which are handed over one by
 * one. Loaded when its kind is first asked for.
 */
export const KINDS = {
  face: () => import('./tasks/face').then(({ drawFace }) => drawFace),
  icon: () => import('./tasks/face').then(({ drawIcon }) => drawIcon),
  previews: () => import('./tasks/first-screen').then(({ previews }) => previews),
  letters: () => import('./tasks/first-screen').then(({ letters }) => letters),
  lighter: () => import('./tasks/pictures').then(({ lighter }) => lighter),
  photo: () => import('./tasks/pictures').then(({ photo }) => photo),
  'roster photo': () => import('./tasks/pictures').then(({ rosterPhoto }) => rosterPhoto),
  crop: () => import('./tasks/pictures').then(({ crop }) => crop),
  logo: () => import('./tasks/pictures').then(({ logo }) => logo),
  'block picture': () => import('./tasks/pictures').then(({ blockPicture }) => blockPicture),
  'mail picture': () => import('./tasks/mail-picture').then(({ mailPicture }) => mailPicture),
  colours: () => import('./tasks/colours').then(({ coloursOf }) => coloursOf),
  film: () => import('./tasks/film').then(({ packFilm }) => packFilm),
  captions: () => import('./tasks/captions').then(({ checkCaptions }) => checkCaptions),
  'single contact': () => import('./tasks/contacts').then(({ singleContact }) => singleContact),
  contacts: () => import('./tasks/contacts').then(({ contactsOf }) => contactsOf),
  'code words': () => import('./tasks/code/words').then(({ codeWords }) => codeWords),
  'code file': () => import('./tasks/code/picture').then(({ codeFile }) => codeFile),
  'code read back': () => import('./tasks/code/prove').then(({ readBack }) => readBack),
  mark: () => import('./tasks/code/mark').then(({ markOf }) => markOf),
  'code proof': () => import('./tasks/code/prove').then(({ proveCode }) => proveCode),
  design: () => import('./tasks/code/design').then(({ proveDesign }) => proveDesign),
  backdrop: () => import('./tasks/backdrop').then(({ drawBackdrop }) => drawBackdrop),
  pass: () => import('./tasks/pass/pass').then(({ makePass }) => makePass),
  'pass authority': () => import('./tasks/pass/authority').then(({ standInAuthority }) => standInAuthority),
  'bound pieces': () => import('./tasks/print/bind').then(({ bindPieces }) => bindPieces),
  'joined files': () => import('./tasks/print/bind').then(({ joinBound }) => joinBound),
  artwork: () => import('./tasks/print/artwork').then(({ takeIn }) => takeIn),
  'printed side': () => import('./tasks/print/piece').then(({ drawSide }) => drawSide),
  'printed piece': () => import('./tasks/print/piece').then(({ printPiece }) => printPiece),
  signature: () => import('./tasks/signature').then(({ makeSignature }) => makeSignature),
  'sheet columns': () => import('./tasks/sheet').then(({ sheetColumns }) => sheetColumns),
  'sheet rows': () => import('./tasks/sheet').then(({ sheetRows }) => sheetRows),
  workbook: () => import('./tasks/workbook').then(({ makeWorkbook }) => makeWorkbook),
  password: () => import('./tasks/password').then(({ judgePassword }) => judgePassword),
  proof: () => import('./tasks/proof').then(({ prove }) => prove),
};

type Run<K extends Kind> = Awaited<ReturnType<(typeof KINDS)[K]>>;
export type Input<K extends Kind> = Parameters<Run<K>>[0];
/** Kinds that hand over one output after the other. */
export type StreamKind = { [K in Kind]: ReturnType<Run<K>> extends Generator ? K : never }[Kind];
export type Output<K extends Kind> =
  ReturnType<Run<K>> extends Generator<infer Item> ? Item : Awaited<ReturnType<Run<K>>>;

/** What is sent to a process of the pool, and what it answers; `id` is that of the piece of work, `megabytes` what the process takes by now (resident). */
export type Order = { id: number; kind: Kind; input: object } | { id: number; more: true };
export type Report =
  | { ready: true }
  | { id: number; output: unknown; last: boolean; megabytes?: number }
  | { id: number; problem: unknown }
  | { id: number; failed: string };
