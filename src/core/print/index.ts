export * from './artwork';
export { briefFiles, type Brief, type BriefFile } from './brief';
export { codeMmOf, codeOn, roomForCode } from './code-size';
export { bled, layPiece, type LaidPiece, type PieceOrder, type PiecePictures } from './lay';
export * from './sheet';
export { snap, type Snapped } from './snap';
export * from './sizes';
export * from './spec';
