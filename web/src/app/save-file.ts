import { csvAs } from '@dial-shade/core';
import { useLayout } from '../state/layout-store';

/** Lets the browser save a table, in the form that spreadsheets of this person read. @param csv as `csvText` makes it */
export function saveCsv(csv: string, name: string): void {
  saveFile(csvAs(csv, useLayout.getState().csvForm), name, 'text/csv');
}

/** Lets the browser save a file. */
export function saveFile(content: BlobPart, name: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
