import { serve } from '@/server/front';

await serve(process.argv.includes('--dev'));
