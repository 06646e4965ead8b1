/** What an organisation links to below each of its pages, in this order. */
export const LEGAL = ['imprint', 'privacy', 'accessibility'] as const;
export type Legal = (typeof LEGAL)[number];

/** Addresses (http or https) of what there is. */
export type LegalLinks = Partial<Record<Legal, string>>;
