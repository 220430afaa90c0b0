import { Injectable, type ExecutionContext } from '@nestjs/common';
import { ThrottlerGuard } from '@nestjs/throttler';

/** So many requests a second from one address; what is said on sockets is counted there. */
@Injectable()
export class RequestThrottler extends ThrottlerGuard {
  override canActivate(context: ExecutionContext): Promise<boolean> {
    return context.getType() === 'http' ? super.canActivate(context) : Promise.resolve(true);
  }
}
