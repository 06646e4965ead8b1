export { COMPANY_DEFAULTS, type CompanyDefaults } from './defaults';
export { CompanyDefaultsSchema } from './schema';
