import { defineConfig } from 'rolldown';

/** With files of their own beside their code, or known to others by their one instance. */
const APART = ['@node-rs/argon2', '@serialport/bindings-cpp', 'class-transformer', 'class-validator'];

/**
 * The built server with what it uses, in one file: two thousand small ones cost three times as long to load. What other
 * processes and threads run stays as built.
 */
export default defineConfig({
  input: 'apps/server/dist/main.js',
  platform: 'node',
  external: APART,
  // Packages ask for others that may be there or not; what our own code asks for, the compiler has found.
  logLevel: 'silent',
  output: { file: 'apps/server/dist/bundle/main.js', format: 'esm', codeSplitting: false, keepNames: true },
});
