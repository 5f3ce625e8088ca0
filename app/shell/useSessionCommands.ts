import { useNavigate } from 'react-router';
import { useCommands } from '@/commands';
import { redoLast, undoLast } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { attempt } from './attempt';

/** What can be done anywhere in a session. */
export function useSessionCommands(id: string) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const history = useAppSelector((state) => state.session.work?.history);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  useCommands({
    undo:
      mayWrite && history && history.done.length > 0 ? () => attempt(() => dispatch(undoLast())) : undefined,
    redo:
      mayWrite && history && history.undone.length > 0
        ? () => attempt(() => dispatch(redoLast()))
        : undefined,
    'go-shelf': () => void navigate('/'),
    'go-bench': () => void navigate(`/s/${id}`),
    'go-export': () => void navigate(`/s/${id}/export`),
  });
}
