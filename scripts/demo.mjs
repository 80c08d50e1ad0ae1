/** `npm run demo`: the app with ten weeks of made-up practice, in a folder of its own. */
import { serve } from './serve.mjs';

serve({ ISOCHRON_DEMO: '1', ISOCHRON_DATA: 'data-demo' });
