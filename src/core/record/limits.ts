/** Sizes of what people type, with the reason for each. */
export const LIMITS = {
  /** Longer than any job title, street or link seen in practice; keeps a page within one round trip (common practice). */
  text: 1_000,
  /** A note pops up on the recipient's phone: one line, not a biography, yet what was imported must not be lost. */
  note: 10_000,
  /** RFC 5321 4.5.3.1.3: a path of 256 octets with its angle brackets. */
  email: 254,
  /** Common limit of browsers and servers for an address. */
  link: 2_000,
  /** A person of many offices has about forty; ten times that is a mistake or an attack. */
  details: 400,
} as const;
