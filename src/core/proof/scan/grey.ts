/** A picture in grey levels, 0 black to 255 white, row by row. */
export type Grey = { width: number; height: number; data: Uint8Array };

export const greyPicture = (width: number, height: number, level = 255): Grey => ({
  width,
  height,
  data: new Uint8Array(width * height).fill(level),
});

/** Pixels of red, green, blue and alpha as grey on a ground, as a camera's luminance has it (ITU-R BT.601, 2.5.1). */
export function greyFrom(rgba: ArrayLike<number>, width: number, height: number, ground = 255): Grey {
  const data = new Uint8Array(width * height);
  for (let at = 0, from = 0; at < data.length; at += 1, from += 4) {
    const level = 0.299 * rgba[from]! + 0.587 * rgba[from + 1]! + 0.114 * rgba[from + 2]!;
    const alpha = rgba[from + 3]! / 255;
    data[at] = Math.round(level * alpha + ground * (1 - alpha));
  }
  return { width, height, data };
}

/** Grey as pixels of red, green, blue and alpha, as decoders take them. */
export function rgbaOf({ data }: Grey): Uint8ClampedArray {
  const made = new Uint8ClampedArray(data.length * 4);
  const words = new Uint32Array(made.buffer);
  for (let at = 0; at < data.length; at += 1) words[at] = (0xff000000 | (data[at]! * 0x010101)) >>> 0;
  return made;
}

/** Which pixels of an axis each pixel of a smaller one covers, and with what share: `most` shares each, from `first` on. */
function coverage(from: number, to: number): { first: Int32Array; most: number; shares: Float32Array } {
  const step = from / to;
  const most = Math.ceil(step) + 1;
  const first = new Int32Array(to);
  const shares = new Float32Array(to * most);
  for (let at = 0; at < to; at += 1) {
    const start = at * step;
    const end = Math.min(from, start + step);
    // Never so late that its shares would lie beyond the last pixel.
    first[at] = Math.max(0, Math.min(Math.floor(start), from - most));
    for (let each = 0; each < most; each += 1) {
      const pixel = first[at]! + each;
      shares[at * most + each] = Math.max(0, Math.min(end, pixel + 1) - Math.max(start, pixel)) / step;
    }
  }
  return { first, most: Math.min(most, from), shares };
}

/** A picture made smaller as a sensor does: each pixel is the mean of what falls on it. */
export function shrunk(picture: Grey, width: number, height: number): Grey {
  if (width === picture.width && height === picture.height) return picture;
  const { data, width: wide, height: tall } = picture;
  const across = coverage(wide, width);
  const down = coverage(tall, height);
  const rows = new Float32Array(width * tall);
  const stride = Math.ceil(wide / width) + 1;
  for (let y = 0; y < tall; y += 1)
    for (let x = 0; x < width; x += 1) {
      const from = y * wide + across.first[x]!;
      const share = x * stride;
      let sum = 0;
      for (let each = 0; each < across.most; each += 1) sum += across.shares[share + each]! * data[from + each]!;
      rows[y * width + x] = sum;
    }
  const made = greyPicture(width, height);
  const line = new Float32Array(width);
  const tallStride = Math.ceil(tall / height) + 1;
  for (let y = 0; y < height; y += 1) {
    line.fill(0);
    for (let each = 0; each < down.most; each += 1) {
      const share = down.shares[y * tallStride + each]!;
      if (share === 0) continue;
      const from = (down.first[y]! + each) * width;
      for (let x = 0; x < width; x += 1) line[x]! += share * rows[from + x]!;
    }
    for (let x = 0; x < width; x += 1) made.data[y * width + x] = line[x]! + 0.5;
  }
  return made;
}

/** A picture out of focus: a normal distribution of `sigma` pixels, along rows and then along columns. */
export function blurred(picture: Grey, sigma: number): Grey {
  if (sigma <= 0.05) return picture;
  const reach = Math.max(1, Math.ceil(sigma * 2.5));
  const bell = Array.from({ length: reach + 1 }, (_, at) => Math.exp(-(at ** 2) / (2 * sigma * sigma)));
  const sum = bell.reduce((all, each, at) => all + (at === 0 ? each : 2 * each), 0);
  const weights = Float32Array.from(bell, (each) => each / sum);
  const { width, height, data } = picture;
  const rows = new Float32Array(width * height);
  // A row with its edges gone on, so that no pixel is asked for that is not there.
  const wide = new Float32Array(width + 2 * reach);
  for (let y = 0; y < height; y += 1) {
    const from = y * width;
    for (let x = 0; x < width; x += 1) wide[x + reach] = data[from + x]!;
    wide.fill(data[from]!, 0, reach);
    wide.fill(data[from + width - 1]!, width + reach);
    for (let x = 0; x < width; x += 1) {
      const at = x + reach;
      let level = weights[0]! * wide[at]!;
      for (let each = 1; each <= reach; each += 1) level += weights[each]! * (wide[at - each]! + wide[at + each]!);
      rows[from + x] = level;
    }
  }
  const made = greyPicture(width, height);
  const line = new Float32Array(width);
  for (let y = 0; y < height; y += 1) {
    line.fill(0);
    for (let each = -reach; each <= reach; each += 1) {
      const from = Math.min(height - 1, Math.max(0, y + each)) * width;
      const weight = weights[Math.abs(each)]!;
      for (let x = 0; x < width; x += 1) line[x]! += weight * rows[from + x]!;
    }
    for (let x = 0; x < width; x += 1) made.data[y * width + x] = line[x]! + 0.5;
  }
  return made;
}

/** Each level through a table of 256. */
export function mapped({ width, height, data }: Grey, level: (value: number) => number): Grey {
  const table = Uint8ClampedArray.from({ length: 256 }, (_, value) => Math.round(level(value)));
  return { width, height, data: data.map((value) => table[value]!) };
}

/** A plane's projection: where a point of the made picture lies in the one that it is made from. */
export type Projection = readonly [number, number, number, number, number, number, number, number];

export type Corners = readonly (readonly [x: number, y: number])[];

/**
 * The projection that takes four points to four others, in the same order: eight equations for eight unknowns, solved by elimination
 * (plane homography; any textbook of computer vision).
 */
export function projection(from: Corners, to: Corners): Projection {
  const rows: number[][] = [];
  from.forEach(([x, y], at) => {
    const [u, v] = to[at]!;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  });
  for (let column = 0; column < 8; column += 1) {
    const pivot = rows.reduce(
      (best, row, at) => (at >= column && Math.abs(row[column]!) > Math.abs(rows[best]![column]!) ? at : best),
      column,
    );
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    const own = rows[column]!;
    const head = own[column]! || 1e-12;
    for (let row = 0; row < 8; row += 1) {
      if (row === column) continue;
      const factor = rows[row]![column]! / head;
      for (let at = column; at < 9; at += 1) rows[row]![at]! -= factor * own[at]!;
    }
  }
  return rows.map((row, at) => row[8]! / (row[at]! || 1e-12)) as unknown as Projection;
}

/** Where a projection puts a point. */
export function projected([a, b, c, d, e, f, g, h]: Projection, x: number, y: number): [number, number] {
  const depth = g * x + h * y + 1 || 1e-12;
  return [(a * x + b * y + c) / depth, (d * x + e * y + f) / depth];
}

/** The level between four pixels; outside the picture its ground. */
export function levelAt({ width, height, data }: Grey, x: number, y: number, ground: number): number {
  const left = Math.floor(x);
  const top = Math.floor(y);
  const along = x - left;
  const down = y - top;
  if (left >= 0 && top >= 0 && left + 1 < width && top + 1 < height) {
    const at = top * width + left;
    const above = data[at]! * (1 - along) + data[at + 1]! * along;
    return above * (1 - down) + (data[at + width]! * (1 - along) + data[at + width + 1]! * along) * down;
  }
  if (left < -1 || top < -1 || left >= width || top >= height) return ground;
  const at = (column: number, row: number) =>
    column < 0 || row < 0 || column >= width || row >= height ? ground : data[row * width + column]!;
  const above = at(left, top) * (1 - along) + at(left + 1, top) * along;
  const below = at(left, top + 1) * (1 - along) + at(left + 1, top + 1) * along;
  return above * (1 - down) + below * down;
}

/** A picture seen through a projection, of a width and height of its own; points are pixels' middles. */
export function warped(picture: Grey, through: Projection, width: number, height: number, ground = 255): Grey {
  const made = greyPicture(width, height);
  const [a, b, c, d, e, f, g, h] = through;
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const depth = g * (x + 0.5) + h * (y + 0.5) + 1;
      made.data[y * width + x] = levelAt(
        picture,
        (a * (x + 0.5) + b * (y + 0.5) + c) / depth - 0.5,
        (d * (x + 0.5) + e * (y + 0.5) + f) / depth - 0.5,
        ground,
      );
    }
  return made;
}
