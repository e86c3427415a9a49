/** The name of the file that has the certificate of the stand-in authority, which whoever checks its time stamps trusts. */
export const authorityCertificate = "authority.pem";
