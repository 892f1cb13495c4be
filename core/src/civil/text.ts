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
