package app.schublade.store.filing;

import app.schublade.core.filing.State;

/** A message as it was when it was locked. */
public record Moving(long id, long accountId, State state) {}
