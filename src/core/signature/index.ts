export { MAIL_GROUNDS, NEEDS } from './colours';
export {
  FIRST_SIGNATURE,
  SIGNATURE_LAYOUTS,
  SignatureOptionsSchema,
  VARIANTS,
  type SignatureLayout,
  type SignatureOptions,
  type SignatureParts,
  type Variant,
} from './options';
export {
  LOGO_HEIGHT,
  PHOTO_SIDE,
  writeSignature,
  type Signature,
  type SignatureContext,
  type SignaturePicture,
} from './signature';
