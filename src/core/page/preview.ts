/** What came of it: JPEG and WOFF2 in base 64. A picture without `data`, or `type` null, comes later as everywhere. */
export type FirstScreen = {
  pictures: { name: string; data: string }[];
  type: { data: string; letters: string } | null;
};

/** The rules that put a first screen's parts in place: below each picture until it comes, before each letter's file. */
export function firstScreenStyle({ pictures, type }: FirstScreen): string {
  const faces = pictures.map(
    ({ data }, at) => `.v${at}{background:url(data:image/jpeg;base64,${data})50% 25%/cover!important}`,
  );
  if (!type) return faces.join('');
  const range = [...type.letters].map((letter) => `U+${letter.codePointAt(0)!.toString(16)}`).join();
  return `@font-face{font-family:T;src:url(data:font/woff2;base64,${type.data})format("woff2");font-weight:1 1000;font-display:optional;unicode-range:${range}}${faces.join('')}`;
}

/** The class of a picture that has a preview below it. */
export const previewClass = (first: FirstScreen | null | undefined, name: string): string => {
  const at = first ? first.pictures.findIndex((each) => each.name === name) : -1;
  return at < 0 ? '' : `v${at}`;
};
