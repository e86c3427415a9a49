import Link from "next/link";

export default function NotFound() {
  return (
    <main style={{ padding: "60px 28px", maxWidth: 560 }}>
      <h1>There is nothing here</h1>
      <p>
        The address is not one of Nomade’s, or your account does not see what it leads to. <Link href="/">Go to your first page</Link>.
      </p>
    </main>
  );
}
