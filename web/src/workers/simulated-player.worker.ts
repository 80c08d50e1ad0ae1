import type { PlayRequest } from './playing';
import { serve } from './serve';

serve<PlayRequest>(async () => (await import('./playing')).handle);
