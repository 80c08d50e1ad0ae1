import { configTitle, listedConfigs } from '@isochron/core/planning';
import type { Passage, Variant } from '@isochron/core/schema';
import { usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { Part } from '../../app/Page';
import { ConfigLine } from './ConfigLine';
import { FoundSections } from './FoundSections';
import { SectionMaker } from './SectionMaker';
import { SectionTime } from './SectionTime';

interface PractisePartProps {
  passage: Passage;
  variant: Variant | null;
  /** Whether it has anything that could swing. */
  swings: boolean;
  onChange(passage: Passage): void;
}

/** How the whole and the sections stand, and how the passage is divided. */
export const PractisePart = ({ passage, variant, swings, onChange }: PractisePartProps) => {
  const { practiceConfigs } = usePracticeConfigs();
  const { settings } = useSettings();
  const listed = listedConfigs(practiceConfigs, passage, settings, variant?.id);
  return (
    <Part title="Practise">
      {listed.map((config) => (
        <ConfigLine
          key={`${config.variantId}.${config.sectionId}`}
          passage={passage}
          config={config}
          title={configTitle(passage, config)}
        />
      ))}
      <SectionTime passage={passage} />
      <FoundSections passage={passage} onChange={onChange} />
      <SectionMaker passage={passage} swings={swings} onChange={onChange} />
    </Part>
  );
};
