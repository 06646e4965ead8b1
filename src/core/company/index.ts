export { COMPANY_DEFAULTS, CompanyDefaultsSchema, type CompanyDefaults } from './defaults';
