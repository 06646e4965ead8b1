export { CHECK_HEADER, checkToken, isCheckToken, type Arrived } from './check';
export {
  organisationOfHost,
  placeOf,
  publicUrlOf,
  securedUrl,
  studioOrigin,
  tellCardHosts,
  transportHeaders,
} from './hosts';
export { release } from './release';
export {
  applicationRole,
  describeSettings,
  developing,
  fingerprintOf,
  givenSettings,
  isOrganisationId,
  rolesOf,
  settings,
  settingsProblems,
  type Settings,
} from './settings';
export { computeProgram, handOverProgram, keptCopyProgram, replyProgram, usePrograms } from './programs';
