/**
 * Access tokens for service accounts (RFC 7523: a signed JWT as authorization grant; RFC 6749 section 5: what is answered).
 */
import { randomBytes } from 'node:crypto';
import { decodeJwt, decodeProtectedHeader, exportPKCS8, generateKeyPair, jwtVerify } from 'jose';

/** A service account in the common JSON form; only what senders need of it. */
export interface ServiceAccount {
  type: 'service_account';
  project_id: string;
  private_key_id: string;
  private_key: string;
  client_email: string;
  client_id: string;
  token_uri: string;
}

type TokenAnswer =
  | { access_token: string; expires_in: number; token_type: 'Bearer' }
  | { error: string; error_description: string };

const GRANT = 'urn:ietf:params:oauth:grant-type:jwt-bearer';
const MESSAGING_SCOPES: readonly string[] = [
  'https://www.googleapis.com/auth/firebase.messaging',
  'https://www.googleapis.com/auth/cloud-platform',
];
/** What senders name as audience who do not read the address from the account's file. */
const DOCUMENTED_AUDIENCES: readonly string[] = [
  'https://oauth2.googleapis.com/token',
  'https://www.googleapis.com/oauth2/v4/token',
];
const LIFE_S = 3600;
/** Clocks may differ by so much. */
const CLOCK_TOLERANCE_S = 10;

type VerifyKey = Awaited<ReturnType<typeof generateKeyPair>>['publicKey'];

interface Account {
  account: ServiceAccount;
  publicKey: VerifyKey;
}

export class AccessTokens {
  readonly #nowMs: () => number;
  readonly #tokenUri: string;
  #accounts = new Map<string, Account>();
  #issued = new Map<string, { project: string; expiresAtMs: number }>();

  constructor(tokenUri: string, nowMs: () => number) {
    this.#tokenUri = tokenUri;
    this.#nowMs = nowMs;
  }

  /** A new service account of a project, with a key of its own. */
  async addAccount(project: string): Promise<ServiceAccount> {
    const { privateKey, publicKey } = await generateKeyPair('RS256', { extractable: true });
    const account: ServiceAccount = {
      type: 'service_account',
      project_id: project,
      private_key_id: randomBytes(20).toString('hex'),
      private_key: await exportPKCS8(privateKey),
      client_email: `sender@${project}.iam.example`,
      client_id: String(randomBytes(6).readUIntBE(0, 6)),
      token_uri: this.#tokenUri,
    };
    this.#accounts.set(account.client_email, { account, publicKey });
    return account;
  }

  /** @param form what was posted to the token address */
  async grant(form: URLSearchParams): Promise<TokenAnswer> {
    const refused = (error: string, error_description: string) => ({ error, error_description });
    const assertion = form.get('assertion');
    if (form.get('grant_type') === null || form.getAll('grant_type').length > 1)
      return refused('invalid_request', 'one grant_type is required');
    if (form.get('grant_type') !== GRANT)
      return refused('unsupported_grant_type', `the grant_type must be ${GRANT}`);
    if (!assertion) return refused('invalid_request', 'the assertion is missing');
    const found = this.#accountOf(assertion);
    if (!found) return refused('invalid_grant', 'Invalid grant: account not found');
    const claims = await this.#verify(assertion, found.publicKey);
    if (typeof claims === 'string') return refused('invalid_grant', claims);
    const scopes = String(claims.scope ?? '').split(' ');
    if (!scopes.some((scope) => MESSAGING_SCOPES.includes(scope)))
      return refused('invalid_scope', 'no scope that may send messages was asked for');
    const token = randomBytes(48).toString('base64url');
    this.#issued.set(token, {
      project: found.account.project_id,
      expiresAtMs: this.#nowMs() + LIFE_S * 1000,
    });
    return { access_token: token, expires_in: LIFE_S, token_type: 'Bearer' };
  }

  /** @returns the project that a bearer may send for, undefined where the token is none or has expired */
  projectOf(authorization: string | undefined): string | undefined {
    const issued = this.#issued.get(/^Bearer (\S+)$/i.exec(authorization ?? '')?.[1] ?? '');
    return issued && issued.expiresAtMs > this.#nowMs() ? issued.project : undefined;
  }

  #accountOf(assertion: string): Account | undefined {
    try {
      return this.#accounts.get(String(decodeJwt(assertion).iss));
    } catch {
      return undefined;
    }
  }

  /** @returns the claims, or what is wrong with them */
  async #verify(assertion: string, key: VerifyKey) {
    try {
      const { kid } = decodeProtectedHeader(assertion);
      const { payload } = await jwtVerify(assertion, key, {
        algorithms: ['RS256'],
        audience: [this.#tokenUri, ...DOCUMENTED_AUDIENCES],
        requiredClaims: ['iss', 'exp', 'iat'],
        currentDate: new Date(this.#nowMs()),
        clockTolerance: CLOCK_TOLERANCE_S,
      });
      const known = this.#accounts.get(String(payload.iss))!.account.private_key_id;
      if (kid !== undefined && kid !== known) return 'Invalid JWT Signature.';
      if (payload.exp! - payload.iat! > LIFE_S || payload.iat! > this.#nowMs() / 1000 + CLOCK_TOLERANCE_S)
        return 'Invalid JWT: Token must be a short-lived token (60 minutes) and in a reasonable timeframe.';
      return payload;
    } catch (error) {
      return `Invalid JWT: ${(error as Error).message}`;
    }
  }
}
