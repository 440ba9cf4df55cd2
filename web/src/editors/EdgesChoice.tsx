import { Choice } from '../ui/fields/Choice.tsx';

/** One edge, or two. */
export const EdgesChoice = ({ edges, onChange }: { edges: 1 | 2; onChange(edges: 1 | 2): void }) => (
  <Choice
    label="Edges"
    value={edges === 1 ? '1' : '2'}
    options={[
      ['1', 'One edge'],
      ['2', 'Two edges'],
    ]}
    onChange={(chosen) => onChange(chosen === '1' ? 1 : 2)}
  />
);
