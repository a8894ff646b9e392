package mandala.core.compiled.space;

import java.util.ArrayList;
import java.util.List;

/**
 * Where places changed, and at which snapshot. What was compiled before a change and has nothing
 * where places changed is still good. Immutable; forgets beyond a few entries, and then says so.
 */
public record ResourceChangeLog(List<Entry> entries, long forgottenUpTo) {

  public static final ResourceChangeLog EMPTY = new ResourceChangeLog(List.of(), -1);
  private static final int MOST = 64;

  /** A stretch of positions where something came, went or changed at a snapshot. */
  public record Entry(long number, int from, int to) {}

  public ResourceChangeLog {
    entries = List.copyOf(entries);
  }

  /** {@return the last snapshot at which anything changed}, -1 where nothing did */
  public long head() {
    return entries.isEmpty() ? forgottenUpTo : entries.getLast().number();
  }

  /**
   * {@return whether this log goes on from another}: all that changed for the other is known here.
   * Of two drafts over one model neither goes on from the other where both change places
   */
  public boolean goesOnFrom(ResourceChangeLog other) {
    long head = other.head();
    return head == -1
        || head == forgottenUpTo
        || entries.stream().anyMatch(entry -> entry.number() == head);
  }

  public ResourceChangeLog with(List<Entry> more) {
    List<Entry> all = new ArrayList<>(entries);
    all.addAll(more);
    long forgotten = forgottenUpTo;
    while (all.size() > MOST) {
      forgotten = Math.max(forgotten, all.removeFirst().number());
    }
    return new ResourceChangeLog(all, forgotten);
  }
}
