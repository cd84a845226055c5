/** Octets as text that JSON can carry (RFC 4648, §4). */
export async function base64Of(blob: Blob): Promise<string> {
  const octets = new Uint8Array(await blob.arrayBuffer());
  let text = '';
  // A call takes so many arguments at most; this many any browser does.
  for (let at = 0; at < octets.length; at += 0x8000)
    text += String.fromCharCode(...octets.subarray(at, at + 0x8000));
  return btoa(text);
}
