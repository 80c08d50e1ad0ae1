import { useNavigate } from 'react-router';
import { refetchAccompaniments } from '../../api/accompaniments';
import { deleteAccompaniment } from '../../api/client';
import { Action } from '../../app/Action';
import { ConfirmDialog } from '../../app/ConfirmDialog';

/** Takes a recording away, after a question. */
export const RemoveRecording = ({ accompanimentId }: { accompanimentId: string }) => {
  const navigate = useNavigate();
  const remove = async () => {
    await deleteAccompaniment(accompanimentId);
    await refetchAccompaniments();
    await navigate('/material/along');
  };
  return (
    <ConfirmDialog
      title="Remove this recording?"
      confirm="Remove it"
      onConfirm={() => void remove()}
      trigger={<Action quiet>Remove it …</Action>}
    >
      Its sound and its beats go. Takes that were played with it stay, with the beats they were measured against.
    </ConfirmDialog>
  );
};
