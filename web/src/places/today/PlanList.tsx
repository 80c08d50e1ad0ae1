import { Box, chakra, Flex, Link, Text } from '@chakra-ui/react';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { moveBlock, resizeBlock, skipBlock } from '@isochron/core/planning';
import type { BlockKind, DayPlan, PlanBlock } from '@isochron/core/schema';
import { GripVertical } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { Link as RouterLink } from 'react-router';
import { useDescribe } from '../../app/use-describe';
import { changePlan } from '../../stores/day-plan';
import { bpm } from '../../words';
import { blockPath } from '../bench/use-run';

const KIND_WORDS: Record<BlockKind, string> = {
  'warm-up': 'Warm-up',
  revisit: 'Come back to',
  edge: 'At the edge',
  method: 'Weak spot',
  slow: 'Slowly',
  musical: 'Music',
  own: 'Your own',
};

const Grip = chakra('button', {
  base: { color: 'quiet', cursor: 'grab', padding: '6px 4px', touchAction: 'none', background: 'transparent' },
});
const Small = chakra('button', {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'control',
    minWidth: '34px',
    padding: '2px 8px',
    fontSize: '16px',
  },
});

const Swap = chakra('select', {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'control',
    padding: '2px 4px',
    background: 'transparent',
    fontSize: '16px',
    width: '92px',
  },
});

/** What the keys do on a block that has the focus. */
const KEYS: Record<string, (block: PlanBlock, index: number) => (plan: DayPlan) => DayPlan> = {
  'Alt+ArrowUp':
    ({ id }, index) =>
    (plan) =>
      moveBlock(plan, id, index - 1),
  'Alt+ArrowDown':
    ({ id }, index) =>
    (plan) =>
      moveBlock(plan, id, index + 1),
  '+':
    ({ id }) =>
    (plan) =>
      resizeBlock(plan, id, 1),
  '-':
    ({ id }) =>
    (plan) =>
      resizeBlock(plan, id, -1),
  Delete:
    ({ id }) =>
    (plan) =>
      skipBlock(plan, id),
};

interface Choices {
  /** What a block can be swapped for. */
  others: readonly { id: string; title: string }[];
  onSwap(blockId: string, passageId: string): void;
}

const Line = ({ block, index, others, onSwap }: Choices & { block: PlanBlock; index: number }) => {
  const say = useDescribe();
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: block.id,
  });
  const name = `${KIND_WORDS[block.kind]}: ${block.title}`;
  const onKeyDown = (event: KeyboardEvent) => {
    const change = KEYS[`${event.altKey ? 'Alt+' : ''}${event.key}`];
    if (!change) return;
    event.preventDefault();
    changePlan(change(block, index));
  };
  return (
    <Flex
      as="li"
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      gap="4px 16px"
      align="flex-start"
      borderBottom="1px solid"
      borderColor="rule"
      paddingY="10px"
      background={isDragging ? 'page' : undefined}
      position="relative"
      zIndex={isDragging ? 1 : undefined}
      flexWrap={{ base: 'wrap', md: 'nowrap' }}
      data-kind={block.kind}
      onKeyDown={onKeyDown}
    >
      <Grip
        ref={setActivatorNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
        className="not-printed"
      >
        <GripVertical size={18} aria-hidden />
      </Grip>
      <Text
        fontFamily="heading"
        fontSize="32px"
        lineHeight="1"
        width="84px"
        textAlign="right"
        whiteSpace="nowrap"
        flexShrink={0}
      >
        {block.minutes}
        <Text as="span" fontFamily="body" fontSize="14px" color="quiet">
          {' '}
          min
        </Text>
      </Text>
      <Box flex="1" minWidth="200px">
        <Text fontSize="15px" color="quiet" lineHeight="1.2">
          {block.restMin > 0 && `After a break of ${block.restMin} min · `}
          {KIND_WORDS[block.kind]}
          {block.startBpm !== null && ` · at ${bpm(block.startBpm)}`}
        </Text>
        <Link asChild fontFamily="heading" fontSize="21px" color="ink" textDecoration="underline" textDecorationColor="rule">
          <RouterLink to={blockPath(block)}>{block.title}</RouterLink>
        </Link>
        <Text color="quiet" fontSize="16px" lineHeight="1.35">
          {say(block.why)}
        </Text>
      </Box>
      <Flex gap="6px" className="not-printed">
        <Small
          type="button"
          aria-label={`One minute less of ${name}`}
          onClick={() => changePlan((plan) => resizeBlock(plan, block.id, -1))}
        >
          −
        </Small>
        <Small
          type="button"
          aria-label={`One minute more of ${name}`}
          onClick={() => changePlan((plan) => resizeBlock(plan, block.id, 1))}
        >
          +
        </Small>
        <Swap aria-label={`Swap ${name} for`} value="" onChange={(event) => onSwap(block.id, event.target.value)}>
          <option value="">swap …</option>
          {others
            .filter(({ id }) => id !== block.config.passageId)
            .map(({ id, title }) => (
              <option key={id} value={id}>
                {title}
              </option>
            ))}
        </Swap>
        <Small type="button" aria-label={`Leave out ${name}`} onClick={() => changePlan((plan) => skipBlock(plan, block.id))}>
          leave out
        </Small>
      </Flex>
    </Flex>
  );
};

/** The blocks of a plan: moved by dragging or by keys, made longer and shorter, swapped, left out. */
export const PlanList = ({ plan, ...choices }: Choices & { plan: DayPlan }) => {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return;
    const to = plan.blocks.findIndex(({ id }) => id === over.id);
    changePlan((now) => moveBlock(now, String(active.id), to));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={plan.blocks.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <Box as="ol" listStyleType="none" padding="0" aria-label="Today’s blocks">
          {plan.blocks.map((block, index) => (
            <Line key={block.id} block={block} index={index} {...choices} />
          ))}
        </Box>
      </SortableContext>
    </DndContext>
  );
};
