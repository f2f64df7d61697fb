// The command line, made into one file.
import module from 'node:module';
import { pathToFileURL } from 'node:url';
import { commandsMade } from './parts.mjs';

// Newer Nodes keep what they compiled for the next start.
module.enableCompileCache?.();
await import(pathToFileURL(await commandsMade()).href);
