import type { NextConfig } from "next";

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  serverExternalPackages: ["sequelize", "mariadb", "piscina", "@node-rs/argon2"],
  experimental: { optimizePackageImports: ["@mantine/core", "@mantine/hooks"] },
};

export default config;
