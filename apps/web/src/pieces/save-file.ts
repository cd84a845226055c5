/** Hands a text or octets to the browser as a file to keep. */
export function saveFile(name: string, type: string, text: string | Uint8Array<ArrayBuffer>): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
