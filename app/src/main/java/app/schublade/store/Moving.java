package app.schublade.store;

import app.schublade.core.filing.State;

/** A message as it was when it was locked. */
record Moving(long id, long accountId, State state) {}
