import { type Passage, type PracticeConfig, WHOLE } from '@isochron/core/schema';
import { useNavigate } from 'react-router';
import { ChoiceField } from '../../app/fields';

/** Which bars are practised, and in which of the ways that they are marked. */
export const PartChoice = ({ passage, config }: { passage: Passage; config: PracticeConfig }) => {
  const navigate = useNavigate();
  const go = (variantId: string, sectionId: string) =>
    void navigate(`/bench/${passage.id}?variant=${variantId}&section=${sectionId}`, { replace: true });
  return (
    <>
      {passage.sections.length > 0 && (
        <ChoiceField
          label="Bars"
          width="100%"
          value={config.sectionId}
          choices={[{ value: WHOLE, name: 'the whole' }, ...passage.sections.map(({ id, name }) => ({ value: id, name }))]}
          onChange={(sectionId) => go(config.variantId, sectionId)}
        />
      )}
      {passage.variants.length > 1 && (
        <ChoiceField
          label="Marks"
          width="100%"
          value={config.variantId}
          choices={passage.variants.map(({ id, name }) => ({ value: id, name }))}
          onChange={(variantId) => go(variantId, config.sectionId)}
        />
      )}
    </>
  );
};
