import { rmSync } from 'node:fs';
import { makeTemplatesFolder } from './template.js';

/** Before the journeys, once: a folder for what they start from; it is gone after them. */
export default function setUp(): () => void {
  const folder = makeTemplatesFolder();
  return () => rmSync(folder, { recursive: true, force: true });
}
