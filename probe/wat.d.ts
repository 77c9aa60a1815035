/** WebAssembly text, assembled at build: the module's bytes in base64. */
declare module '*.wat' {
  const base64: string;
  export default base64;
}
