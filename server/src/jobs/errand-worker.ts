import { answered, type Refusal } from './aside';
import { doErrand, type Errand, type Fetched } from './errands';

/** Entry of a thread that does errands. */
export default function work(errand: Errand): Promise<Fetched[Errand['kind']] | Refusal> {
  return answered(() => doErrand(errand));
}
