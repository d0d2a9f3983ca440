import { route } from '@/server/door';
import { addCalibration } from '@/server/instruments';

export const POST = route('POST /api/instruments/[id]/calibrations', ({ actor, params, body }) => addCalibration(actor, params.id, body));
