import { Param, ParseUUIDPipe } from '@nestjs/common';

/** An id in the address; what is no id is not there. */
export const uuidParam = (name: string) => Param(name, new ParseUUIDPipe({ errorHttpStatusCode: 404 }));
