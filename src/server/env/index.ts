export { organisationOfHost, placeOf, publicUrlOf, transportHeaders } from './hosts';
export { applicationRole, describeSettings, developing, settings, settingsProblems, type Settings } from './settings';
export { computeProgram, usePrograms } from './programs';
