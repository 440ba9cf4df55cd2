import Papa from 'papaparse';
import { type Evaluation, logOf } from '../../../../core/plan/index.ts';
import { RECORD_KINDS } from '../../../../core/records/record.ts';
import { recordSaid } from '../../../../core/records/said.ts';

/** The log as CSV: a row for every size that was measured, in mm and kg; one for a record without any. */
export function logCsv(stands: Evaluation): string {
  const fields = [
    'began',
    'ended',
    'move',
    'kind',
    'piece',
    'what',
    'reckoned mm or kg',
    'came mm or kg',
    'in words',
    'remark',
    'by',
  ];
  const data = logOf(stands).flatMap(({ record, title, measured }) => {
    const { began, ended = '', kind, remark = '', by = '' } = record;
    const words = recordSaid(record, stands.shop).join('; ');
    const head = [began, ended, title, RECORD_KINDS[kind]];
    const rows = measured.map((m) => [m.piece, m.what, m.reckoned, m.came]);
    return (rows.length > 0 ? rows : [['', '', '', '']]).map((row) => [...head, ...row, words, remark, by]);
  });
  // A remark that begins as a formula does is none.
  return Papa.unparse({ fields, data }, { escapeFormulae: true });
}
