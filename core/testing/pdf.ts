/** A page of a PDF: its paper in points, and what is drawn on it in operators of ISO 32000-1. */
export interface PdfPage {
  width: number;
  height: number;
  draw: string;
}

/** A PDF of some pages, with Helvetica as /F1, which a reader brings itself. */
export function pdfOf(pages: readonly PdfPage[]): Buffer {
  const kids = pages.map((_, i) => `${4 + 2 * i} 0 R`).join(' ');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Kids [${kids}] /Count ${pages.length} >>`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
    ...pages.flatMap(({ width, height, draw }, i) => [
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${width} ${height}] /Resources << /Font << /F1 3 0 R >> >> /Contents ${5 + 2 * i} 0 R >>`,
      `<< /Length ${draw.length} >>\nstream\n${draw}\nendstream`,
    ]),
  ];
  let text = '%PDF-1.4\n';
  const offsets = objects.map((object, i) => {
    const at = text.length;
    text += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return `${String(at).padStart(10, '0')} 00000 n \n`;
  });
  const table = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets.join('')}`;
  text += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return Buffer.from(text, 'latin1');
}
