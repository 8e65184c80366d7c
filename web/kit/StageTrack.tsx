import { quantity } from './format';
import { Moon } from './Moon';

/** The stages of a document, computed from what was decided and how much is done. The one under way is set off. */
export function StageTrack({ stages }: { stages: readonly { name: string; done: string; of: string }[] }) {
  const now = stages.findIndex((stage) => Number(stage.done) < Number(stage.of));
  return (
    <ol className="stages" aria-label="Stages">
      {stages.map((stage, index) => (
        <li key={stage.name} className={index === now ? 'now' : ''} aria-current={index === now ? 'step' : undefined}>
          <Moon done={stage.done} of={stage.of} size={16} />
          {stage.of === '1' ? stage.name : `${stage.name} ${quantity(stage.done)} of ${quantity(stage.of)}`}
        </li>
      ))}
    </ol>
  );
}
