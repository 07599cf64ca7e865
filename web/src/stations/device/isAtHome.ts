/** Whether this page is open on the machine where the studio is: a paired device makes no pieces. */
export const isAtHome = () => ["127.0.0.1", "localhost", "[::1]"].includes(location.hostname);
