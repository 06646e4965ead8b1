export { organisationOfHost, placeOf, publicUrlOf, transportHeaders } from './hosts';
export {
  applicationRole,
  describeSettings,
  developing,
  fingerprintOf,
  rolesOf,
  settings,
  settingsProblems,
  type Settings,
} from './settings';
export { computeProgram, keptCopyProgram, usePrograms } from './programs';
