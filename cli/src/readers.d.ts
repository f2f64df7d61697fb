/** What the tests use of a reader of STEP that has no types of its own. */
declare module 'occt-import-js' {
  interface ReadMesh {
    name: string;
    attributes: { position: { array: number[] } };
    index: { array: number[] };
  }
  export default function start(): Promise<{
    ReadStepFile(content: Uint8Array, options: object): { success: boolean; meshes: ReadMesh[] };
  }>;
}
