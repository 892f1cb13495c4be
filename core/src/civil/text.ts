/** The text cut to at most so many UTF-16 units, never in the middle of a character that takes two. */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text;
  const last = text.charCodeAt(most - 1);
  return text.slice(0, last >= 0xd800 && last < 0xdc00 ? most - 1 : most);
}

/** Text as it stands between tags or quotes of XML. */
export function escapeXml(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
}

/**
 * Text of a file: UTF-16 by its mark, else UTF-8 without its byte-order mark, else Latin-1 (as Windows has it).
 * @param isCut it is the first stretch of a file and may end within a character
 */
export function decodedText(bytes: Uint8Array, isCut = false): { text: string; isLatin1: boolean } {
  const [first, second] = bytes;
  if ((first === 0xff && second === 0xfe) || (first === 0xfe && second === 0xff))
    return { text: new TextDecoder(first === 0xff ? 'utf-16le' : 'utf-16be').decode(bytes), isLatin1: false };
  try {
    return {
      text: new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: isCut }),
      isLatin1: false,
    };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), isLatin1: true };
  }
}
