import { toast } from 'sonner';
import { attempt } from '@/ui/attempt';
import { storage } from '@/saving/workspace';
import type { SessionSummary } from '@/storage/summary';
import { counted } from '@/words/counts';

/** Deletes sessions and offers to bring them back together; nothing of them goes while that is on offer. */
export async function removeSessions(sessions: readonly SessionSummary[]) {
  const removed: string[] = [];
  const endOffers = sessions.map(({ id }) => storage.offer(id));
  const endOffer = () => endOffers.forEach((end) => end());
  try {
    for (const { id } of sessions) {
      await storage.remove(id);
      removed.push(id);
    }
  } catch (error) {
    if (removed.length === 0) endOffer();
    throw error;
  } finally {
    if (removed.length > 0)
      toast(
        removed.length === 1
          ? `“${sessions[0].name}” was deleted.`
          : `${counted(removed.length, 'session')} were deleted.`,
        {
          duration: 12000,
          onAutoClose: endOffer,
          onDismiss: endOffer,
          action: {
            label: 'Undo',
            onClick: () =>
              attempt(() => Promise.all(removed.map((id) => storage.bringBack(id))).finally(endOffer)),
          },
        },
      );
  }
}
