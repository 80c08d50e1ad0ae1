/** `npm start`: the app with the player's own data. */
import { serve } from './serve.mjs';

serve({ ISOCHRON_DATA: 'data' });
