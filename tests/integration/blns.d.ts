declare module 'big-list-of-naughty-strings' {
  const strings: string[];
  export default strings;
}
