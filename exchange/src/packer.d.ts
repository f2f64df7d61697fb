// The package's main file is of the older form under a name of the newer one; its module has no types of its own.
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  export * from 'maxrects-packer';
}
