import type { ToCalibrator } from './calibration-messages';
import { serve } from './serve';

serve<ToCalibrator>(async () => (await import('./calibrating')).handle);
