export { handOverPage, type HandOver, type HeldCard, type HeldCode, type HeldForm } from './page';
