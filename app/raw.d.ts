/** A file's text, as the bundler gives it. */
declare module '*?raw' {
  const text: string;
  export default text;
}
