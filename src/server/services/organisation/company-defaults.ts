import { COMPANY_DEFAULTS, CompanyDefaultsSchema, type CompanyDefaults } from '@/core/company';
import { organisation } from '@/server/db/accounts/accounts';
import type { Tx } from '@/server/db/pool';

/** The defaults as a row holds them; ours where a row holds what cannot be read. */
export function defaultsOf({ defaults }: { defaults: unknown }): CompanyDefaults {
  const read = CompanyDefaultsSchema.safeParse(defaults);
  return read.success ? read.data : COMPANY_DEFAULTS;
}

/** Within one transaction they stay the same, for thousands of cards that an import makes. */
const known = new WeakMap<Tx, Promise<CompanyDefaults>>();

export function companyDefaults(tx: Tx, organisationId: string): Promise<CompanyDefaults> {
  const asked =
    known.get(tx) ?? organisation(tx, organisationId).then((row) => (row ? defaultsOf(row) : COMPANY_DEFAULTS));
  known.set(tx, asked);
  return asked;
}
