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
  useCommands({
    undo: mayWrite && history && countOf(history) > 0 ? undo : undefined,
    redo: mayWrite && history && history.undone.length > 0 ? redo : undefined,
    'go-shelf': () => void navigate('/'),
    'go-bench': () => void navigate(`/s/${id}`),
    'go-record': () => void navigate(`/s/${id}/record`),
    'go-export': () => void navigate(`/s/${id}/export`),
  });
}
