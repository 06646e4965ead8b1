export { handOverPage, type HandOver, type HeldCard, type HeldCode } from './page';
