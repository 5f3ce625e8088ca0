import { useNavigate } from 'react-router';
import { useCommands } from '@/commands';
import { countOf } from '@/history/history';
import { useAppSelector } from '@/state/store';
import { useHistorySteps } from './useHistorySteps';

/** What can be done anywhere in a session. */
export function useSessionCommands(id: string) {
  const { undo, redo } = useHistorySteps();
  const navigate = useNavigate();
  const history = useAppSelector((state) => state.session.work?.history);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const to = (place: string) => () => void navigate(`/s/${id}${place}`);
  useCommands({
    undo: mayWrite && history && countOf(history) > 0 ? undo : undefined,
    redo: mayWrite && history && history.undone.length > 0 ? redo : undefined,
    'go-shelf': () => void navigate('/'),
    'go-record': to('/record'),
    'go-takes': to('/takes'),
    'go-tempo': to('/tempo'),
    'go-bench': to(''),
    'go-parts': to('/parts'),
    'go-readings': to('/readings'),
    'go-export': to('/export'),
    'go-score': to('/score'),
    'go-clean-up': to('/clean-up'),
  });
}
