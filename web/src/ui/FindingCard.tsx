import ErrorIcon from '@mui/icons-material/Error';
import HourglassEmptyIcon from '@mui/icons-material/HourglassEmpty';
import InfoOutlinedIcon from '@mui/icons-material/InfoOutlined';
import ShieldOutlinedIcon from '@mui/icons-material/ShieldOutlined';
import WarningAmberIcon from '@mui/icons-material/WarningAmber';
import { Box, Button } from '@mui/material';
import { type Finding, type Remedy, type Severity } from '../../../core/moves/index.ts';
import { Asked } from './Asked.tsx';
import { colours } from './theme.ts';

const LOOK: Record<Severity, { icon: typeof ErrorIcon; word: string; edge: string; wash: string }> = {
  error: { icon: ErrorIcon, word: 'Cannot be done', edge: colours.alarm, wash: colours.alarmWash },
  warning: { icon: WarningAmberIcon, word: 'Mind', edge: colours.amber, wash: colours.amberWash },
  note: { icon: InfoOutlinedIcon, word: 'Note', edge: colours.verdigris, wash: colours.verdigrisWash },
  caution: { icon: ShieldOutlinedIcon, word: 'Take care', edge: colours.faded, wash: colours.gesso },
  waiting: {
    icon: HourglassEmptyIcon,
    word: 'Wait',
    edge: colours.verdigris,
    wash: colours.verdigrisWash,
  },
};

interface FindingCardProps {
  finding: Finding;
  /** Left out where nothing is to be mended, as by a caution. */
  onRemedy?(remedy: Remedy): void;
}

/** One finding, in words and with a sign of its own; never colour alone. Its remedy is one press. */
export function FindingCard({ finding, onRemedy }: FindingCardProps) {
  const { severity } = finding;
  const { icon: Icon, word, edge, wash } = LOOK[severity];
  const { remedy } = finding;
  return (
    <Box
      role={severity === 'waiting' ? 'status' : severity === 'error' ? 'alert' : 'note'}
      sx={{
        borderLeft: `4px solid ${edge}`,
        background: wash,
        borderRadius: '0 5px 5px 0',
        p: 1.25,
        lineHeight: 1.35,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Icon sx={{ color: edge, fontSize: 20, mt: 0.1 }} aria-hidden />
        <span>
          <b>{word}.</b> {finding.text}
          {finding.why && (
            <>
              {' '}
              <Asked figure={finding.why}>Why?</Asked>
            </>
          )}
        </span>
      </Box>
      {remedy && onRemedy && (
        <Button size="small" variant="contained" sx={{ mt: 1, ml: 3.5 }} onClick={() => onRemedy(remedy)}>
          {remedy.label}
        </Button>
      )}
    </Box>
  );
}
