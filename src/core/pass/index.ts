export { passFields, textsOfPass, writePass, type PassField, type PassFields, type PassOrder } from './pass';
