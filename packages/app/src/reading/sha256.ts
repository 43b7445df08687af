/** SHA-256 of bytes, in hexadecimal: what files of the stock are kept and found by. */
export async function sha256(bytes: Uint8Array): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes.slice()));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}
