export { applicationRole, describeSettings, developing, settings, settingsProblems, type Settings } from './settings';
