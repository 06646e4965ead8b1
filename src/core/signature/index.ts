export { MAIL_GROUNDS, NEEDS } from './colours';
export {
  belowIn,
  faultOfStrip,
  HouseSignatureSchema,
  leadsWell,
  stripAt,
  textIn,
  type HouseSignature,
  type Strip,
  type Texts,
} from './house';
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
  STRIP_WIDTH,
  PHOTO_SIDE,
  writeSignature,
  type Signature,
  type SignatureContext,
  type SignaturePicture,
  type SignatureStrip,
} from './signature';
