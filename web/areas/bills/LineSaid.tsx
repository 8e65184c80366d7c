import { amountsIn } from '../../kit/format';

/** Said under a line of a bill: what differs from what was expected. */
export const LineSaid = ({ children }: { children: string | undefined }) => (children ? <small className="quiet name">{amountsIn(children)}</small> : null);
