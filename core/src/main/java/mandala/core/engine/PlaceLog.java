package mandala.core.engine;

import java.util.ArrayList;
import java.util.List;

/**
 * Where places changed, and at which snapshot. What was compiled before a change and has nothing
 * where places changed is still good. Immutable; forgets beyond a few entries, and then says so.
 */
record PlaceLog(List<Entry> entries, long forgottenUpTo) {

  static final PlaceLog EMPTY = new PlaceLog(List.of(), -1);
  private static final int MOST = 64;

  /** A stretch of positions where something came, went or changed at a snapshot. */
  record Entry(long number, int from, int to) {}

  PlaceLog {
    entries = List.copyOf(entries);
  }

  /** {@return the last snapshot at which anything changed}, -1 where nothing did */
  long head() {
    return entries.isEmpty() ? forgottenUpTo : entries.getLast().number();
  }

  /**
   * {@return whether this log goes on from another}: all that changed for the other is known here.
   * Of two drafts over one model neither goes on from the other where both change places
   */
  boolean goesOnFrom(PlaceLog other) {
    long head = other.head();
    return head == -1
        || head == forgottenUpTo
        || entries.stream().anyMatch(entry -> entry.number() == head);
  }

  PlaceLog with(List<Entry> more) {
    List<Entry> all = new ArrayList<>(entries);
    all.addAll(more);
    long forgotten = forgottenUpTo;
    while (all.size() > MOST) {
      forgotten = Math.max(forgotten, all.removeFirst().number());
    }
    return new PlaceLog(all, forgotten);
  }
}
