export default function Page() {
  return <p>soon</p>;
}
