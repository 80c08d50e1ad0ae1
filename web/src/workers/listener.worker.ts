import type { ToListener } from './listener-messages';
import { serve } from './serve';

serve<ToListener>(async () => (await import('./listening')).handle);
