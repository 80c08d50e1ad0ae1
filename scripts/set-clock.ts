import { setClock } from '../core/src/time/clock';
import { TEST_MOMENT } from './fixed-clock';

setClock(new Date(TEST_MOMENT));
