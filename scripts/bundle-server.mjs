/** Before any test: the server as it is started, for the tests that start one. */
import { bundle } from './bundle.mjs';

export const setup = () => bundle('server');
