/** What a picture is matched to: a row's file name, staff number, mail address and name. */
export type PictureOf = {
  at: number;
  picture: string | null;
  staffNumber: string | null;
  mail: string | null;
  name: string;
};

/** A text's letters and figures alone, marks above letters taken away, in one order however it was put together. */
const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
const baseOf = (path: string): string => path.split(/[/\\]/).pop() ?? '';
const stem = (file: string): string => baseOf(file).replace(/\.[a-z0-9]{2,5}$/i, '');
/** What a sheet calls a picture, without folder, and without its ending where it has one: `keld.ros` has none. */
const named = (picture: string): string =>
  baseOf(picture).replace(/\.(jpe?g|jfif|png|webp|avif|hei[cf]|gif|tiff?|bmp)$/i, '');
const words = (text: string): string => plain(text).split(' ').sort().join(' ');

/**
 * Which picture is whose: by the file name that a row gives, else by a file that is called like its staff number, mail address (or what
 * stands before the @), or name in any order of its words. What two rows could claim by the same means is nobody's.
 */
export function matchPictures(files: readonly string[], rows: readonly PictureOf[]): Map<number, string> {
  const matched = new Map<number, string>();
  const taken = new Set<string>();
  const means: [(row: PictureOf) => string[], (file: string) => string][] = [
    [({ picture }) => (picture ? [plain(picture)] : []), (file) => plain(file)],
    [({ picture }) => (picture ? [plain(named(picture))] : []), (file) => plain(file)],
    [({ picture }) => (picture ? [plain(named(picture))] : []), (file) => plain(stem(file))],
    [({ staffNumber }) => (staffNumber ? [plain(staffNumber)] : []), (file) => plain(stem(file))],
    [({ mail }) => (mail ? [plain(mail)] : []), (file) => plain(stem(file))],
    [({ mail }) => (mail ? [plain(mail.split('@')[0]!)] : []), (file) => plain(stem(file))],
    [({ name }) => (name ? [words(name)] : []), (file) => words(stem(file))],
  ];
  for (const [ofRow, ofFile] of means) {
    const wanted = new Map<string, number[]>();
    for (const row of rows)
      if (!matched.has(row.at))
        for (const each of new Set(ofRow(row))) wanted.set(each, [...(wanted.get(each) ?? []), row.at]);
    for (const file of files) {
      if (taken.has(file)) continue;
      const at = wanted.get(ofFile(file));
      if (at?.length !== 1 || matched.has(at[0]!)) continue;
      matched.set(at[0]!, file);
      taken.add(file);
    }
  }
  return matched;
}
