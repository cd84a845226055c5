import { SetMetadata } from '@nestjs/common';

export const EVEN_LATE = 'done even late';

/** What makes the station silent is done also when whoever asked has given it up meanwhile. */
export const DoneEvenLate = () => SetMetadata(EVEN_LATE, true);
