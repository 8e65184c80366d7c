/** A part of a package in WebAssembly, by the address it is served at. */
declare module '*.wasm?url' {
  const address: string;
  export default address;
}
