import { type MethodUse, type PracticeConfigKey, practiceConfigKey } from '@isochron/core/schema';
import { useNavigate } from 'react-router';
import { patchPracticeConfig } from '../../api/client';
import { showPracticeConfig } from '../../api/queries/practice';
import { playerMessage } from '../../app/report-error';
import { toaster } from '../../app/toaster';

/** Sets a configuration to one or two methods and goes to the Bench with it: drills for a spot, one press away. */
export const usePractise = () => {
  const navigate = useNavigate();
  return async (config: PracticeConfigKey, [first, second]: readonly MethodUse[]): Promise<void> => {
    if (!first) return;
    const { passageId, variantId, sectionId } = config;
    try {
      const changed = await patchPracticeConfig(practiceConfigKey(config), {
        methodId: first.id,
        alsoMethodId: second?.id ?? null,
        methodParameters: Object.fromEntries(
          [first, ...(second ? [second] : [])].map(({ id, parameters }) => [id, parameters]),
        ),
      });
      showPracticeConfig(changed);
      await navigate(`/bench/${passageId}?variant=${variantId}&section=${sectionId}`);
    } catch (error) {
      toaster.create({ title: playerMessage(error) });
    }
  };
};
