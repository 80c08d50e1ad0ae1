import type { ImportRequest } from './import-messages';
import { serve } from './serve';

serve<ImportRequest>(async () => (await import('./importing')).handle);
