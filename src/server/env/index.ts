export { organisationOfHost, publicUrlOf } from './hosts';
export { applicationRole, describeSettings, developing, settings, settingsProblems, type Settings } from './settings';
