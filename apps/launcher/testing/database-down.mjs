export default function databaseDown() {
  globalThis.mistpeakCluster?.remove();
}
