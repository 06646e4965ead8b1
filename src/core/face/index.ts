export * from './content';
export {
  FACE_NAMES,
  FACE_SIZES,
  LEAST_PRINT,
  type Face,
  type FaceContent,
  type FaceItem,
  type FaceName,
  type FaceSize,
} from './face';
export { iconSvg, initialsOf } from './icon';
export { layFace } from './lay';
export { drawnLogo, logoWithin } from './logo';
export { faceSvg, type FacePictures } from './svg';
export { createTypesetter, type FontFiles, type SetGlyph, type SetText, type Typesetter } from './typeset';
