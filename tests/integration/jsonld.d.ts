declare module 'jsonld' {
  const jsonld: { expand: (document: object, options: object) => Promise<object[]> };
  export default jsonld;
}
