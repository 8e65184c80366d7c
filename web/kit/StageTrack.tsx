import Step from '@mui/material/Step';
import StepLabel from '@mui/material/StepLabel';
import Stepper from '@mui/material/Stepper';
import { quantity } from './format';
import { Moon } from './Moon';

/** The stages of a document, computed from what was decided and how much is done. The one under way is set off. */
export function StageTrack({ stages }: { stages: readonly { name: string; done: string; of: string }[] }) {
  const now = stages.findIndex((stage) => Number(stage.done) < Number(stage.of));
  return (
    <Stepper component="ol" aria-label="Stages" activeStep={now < 0 ? stages.length : now}>
      {stages.map((stage, index) => (
        <Step component="li" key={stage.name} aria-current={index === now ? 'step' : undefined}>
          <StepLabel icon={<Moon done={stage.done} of={stage.of} size={16} />}>
            {stage.of === '1' ? stage.name : `${stage.name} ${quantity(stage.done)} of ${quantity(stage.of)}`}
          </StepLabel>
        </Step>
      ))}
    </Stepper>
  );
}
