import type { NextConfig } from "next";

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  serverExternalPackages: ["sequelize", "mariadb", "piscina", "@node-rs/argon2", "pdfmake", "sharp"],
  // Types are checked by themselves: `npm test` does, and the lane that builds has other things to do.
  typescript: { ignoreBuildErrors: true },
  experimental: { optimizePackageImports: ["@mantine/core", "@mantine/hooks"] },
};

export default config;
