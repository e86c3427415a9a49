import { NextResponse } from "next/server";
import type { NextRequest } from "next/server";
import { isLoopback } from "./wiring/web/request-address";

function isReadable(text: string): boolean {
  try {
    decodeURIComponent(text);
    return true;
  } catch {
    return false;
  }
}

/**
 * Content security policy with a nonce for each request. Uploads, and what sources push, do not pass here, so that they
 * are never buffered, nor cut off; pictures of plans bear a stricter policy of their own.
 */
export function proxy(request: NextRequest): NextResponse {
  if (!isReadable(request.nextUrl.pathname) || !isReadable(request.nextUrl.search))
    return new NextResponse("A % in this address is followed by no two digits of a character. Look whether it was cut off or typed wrong.\n", {
      status: 400,
      headers: { "content-type": "text/plain; charset=utf-8", "x-content-type-options": "nosniff", "cache-control": "private, no-store" },
    });
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${process.env.NODE_ENV === "development" ? " 'unsafe-eval'" : ""}`,
    // Style attributes carry widths and positions; there is no script in them.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "frame-ancestors 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "object-src 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "same-origin");
  // What frame-ancestors says, for browsers that do not read it.
  response.headers.set("x-frame-options", "DENY");
  // Whoever came encrypted once comes so for a year; on this machine itself nothing is encrypted.
  if (!isLoopback(request.headers.get("host") ?? "")) response.headers.set("strict-transport-security", "max-age=31536000");
  return response;
}

export const config = { matcher: ["/((?!_next/static|_next/image|icon.svg|intake/upload|scim/v2|register/plans/[0-9]+/picture).*)"] };
