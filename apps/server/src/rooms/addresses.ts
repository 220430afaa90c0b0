import { networkInterfaces } from 'node:os';
import { Injectable } from '@nestjs/common';

/** Where this server can be reached, once it listens. */
@Injectable()
export class Addresses {
  private port = 0;
  private isHttps = false;
  private isOpen = false;

  listening(port: number, { isOpenToHall, isHttps }: { isOpenToHall: boolean; isHttps: boolean }): void {
    this.port = port;
    this.isOpen = isOpenToHall;
    this.isHttps = isHttps;
  }

  get isOpenToHall(): boolean {
    return this.isOpen;
  }

  /** Addresses for a browser, those of the hall first; only this machine's own where nothing else can come in. */
  list(): readonly string[] {
    const scheme = this.isHttps ? 'https' : 'http';
    const hosts = this.isOpen ? [...hallHosts(), '127.0.0.1'] : ['127.0.0.1'];
    return hosts.map((host) => `${scheme}://${host}:${this.port}`);
  }

  /** Whether a name that a request asks for is one of this machine's. */
  isOurs(host: string): boolean {
    if (!this.isOpen) return false;
    const name = host.replace(/:\d+$/, '').toLowerCase();
    return hallHosts().includes(name) || name.endsWith('.local');
  }
}

/** IPv4 addresses of this machine in the networks it is in; home and hall networks first. */
export function hallHosts(): readonly string[] {
  const all = Object.values(networkInterfaces())
    .flat()
    .filter((entry) => entry !== undefined && entry.family === 'IPv4' && !entry.internal)
    .map((entry) => entry?.address ?? '');
  const likely = (address: string) => (/^192\.168\./.test(address) ? 0 : /^10\./.test(address) ? 1 : 2);
  return [...new Set(all)].sort((a, b) => likely(a) - likely(b));
}
