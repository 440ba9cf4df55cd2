import { Button, Typography } from '@mui/material';
import Papa from 'papaparse';
import { Link, useParams } from 'react-router';
import { type Quote, amountSaid, moneySaid, quoteOf } from '../../../../core/days/index.ts';
import type { Evaluation } from '../../../../core/plan/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { usePace } from '../../document/learning.ts';
import { download, fileName } from '../../ui/download.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Section } from '../../ui/Section.tsx';
import { numbersStyle } from '../../ui/theme.ts';

/** Hours and kilograms as they are, and prices, for whoever reckons on. */
function quoteCsv({ rows, total }: Quote, { currency }: Shop): string {
  const data = rows.map((r) => [r.what, r.amount.toFixed(3), r.unit, r.price?.toFixed(2) ?? '']);
  return Papa.unparse(
    {
      fields: ['what', 'amount', 'unit', `price ${currency}`.trim()],
      data: [...data, ['together', '', '', total.toFixed(2)]],
    },
    { escapeFormulae: true },
  );
}

/** What the piece takes, to quote from: as it was written down where moves are done, as reckoned where they are not. */
export function Costs({ evaluation }: { evaluation: Evaluation }) {
  const { id } = useParams();
  const { shop, plan } = evaluation;
  const quote = quoteOf(evaluation, usePace());
  const save = () =>
    download(
      fileName(plan.name, '-costs.csv'),
      new Blob([quoteCsv(quote, shop)], { type: 'text/csv;charset=utf-8' }),
    );
  return (
    <Section title="What it takes, to quote from">
      <FiguresTable heads={['(What)', 'Amount', 'Price']} right={['Amount', 'Price']}>
        {quote.rows.map((r) => (
          <tr key={r.what}>
            <td>{r.what}</td>
            <td style={numbersStyle}>{amountSaid(r, shop)}</td>
            <td style={numbersStyle}>{r.price === null ? '–' : moneySaid(r.price, shop)}</td>
          </tr>
        ))}
        {quote.total > 0 && (
          <tr>
            <td>
              <b>Together</b>
            </td>
            <td />
            <td style={numbersStyle}>
              <b>{moneySaid(quote.total, shop)}</b>
            </td>
          </tr>
        )}
      </FiguresTable>
      <Typography variant="body2" color="text.secondary">
        Hours of what is done as they were written down, of the rest as planned, with what the shop’s records
        say of its heats and times.
      </Typography>
      {quote.unpriced.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          Without a price: {quote.unpriced.join(', ')}. An hour of work, gas and abrasives are set under{' '}
          <Link to={`/pieces/${id}/shop`}>Shop</Link>, steels among its materials.
        </Typography>
      )}
      <Button variant="outlined" onClick={save}>
        Save it as CSV
      </Button>
    </Section>
  );
}
