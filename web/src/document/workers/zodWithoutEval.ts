import { z } from 'zod';

// Zod probes for `new Function`, which our content security policy rightly refuses and reports.
z.config({ jitless: true });
