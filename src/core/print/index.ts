export { codeMmOf, codeOn, roomForCode } from './code-size';
export { bled, layPiece, type LaidPiece, type PieceOrder, type PiecePictures } from './lay';
export * from './sheet';
export * from './sizes';
export * from './spec';
