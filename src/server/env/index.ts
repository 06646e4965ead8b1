export { applicationRole, describeSettings, settings, settingsProblems, type Settings } from './settings';
