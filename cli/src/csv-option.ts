import { CSV_FORMS } from '@dial-shade/core';
import { Option } from 'commander';

/** `--csv`: the form of the CSV files that a command writes. @param flags of a command where that name is taken */
export function csvOption(flags = '--csv <form>'): Option {
  return new Option(
    flags,
    'CSV as it is documented, or for spreadsheets: parted by comma or semicolon, with a byte-order mark',
  )
    .choices(CSV_FORMS)
    .default('plain');
}
