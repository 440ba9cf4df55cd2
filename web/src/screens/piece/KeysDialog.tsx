import { colours, fonts } from '../../ui/theme.ts';
import { Popup } from '../../ui/Popup.tsx';

const KEYS: [string, string][] = [
  ['← →', 'walk along the panels'],
  ['Home End', 'first panel, last panel'],
  ['Enter', 'go to the numbers of the selected move'],
  ['Z', 'undo'],
  ['Shift Z', 'redo'],
  ['T', 'turn the chosen piece a quarter (in Arrange)'],
  ['R', 'roll the chosen piece end for end (in Arrange)'],
  ['Delete', 'take the selected move out'],
  ['?', 'this list'],
];

export function KeysDialog({ open, onClose }: { open: boolean; onClose(): void }) {
  return (
    <Popup open={open} title="Keys" onClose={onClose}>
      <table>
        <tbody>
          {KEYS.map(([key, what]) => (
            <tr key={key}>
              <th
                scope="row"
                style={{
                  textAlign: 'left',
                  paddingRight: 24,
                  fontFamily: fonts.numbers,
                  color: colours.oxide,
                }}
              >
                {key}
              </th>
              <td style={{ padding: '4px 0' }}>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Popup>
  );
}
