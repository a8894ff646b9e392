package mandala.core.engine;

import java.util.concurrent.atomic.AtomicReferenceArray;

/**
 * The last compiled state of each principal. A state is given again only for an instant within the
 * span in which it holds, so that no answer is stale. Thread-safe; two threads may compile the
 * same.
 */
final class PersonCache {

  private final Snapshot it;

  /** By principal, anonymous last. */
  private final AtomicReferenceArray<Person> last;

  PersonCache(Snapshot it) {
    this.it = it;
    this.last = new AtomicReferenceArray<>(it.directory.principals.size() + 1);
  }

  Person at(int principal, long at) {
    int slot = principal < 0 ? last.length() - 1 : principal;
    Person known = last.get(slot);
    if (known != null && known.good.from() <= at && at < known.good.until()) {
      return known;
    }
    Person person = new Person(it, principal, at);
    last.set(slot, person);
    return person;
  }
}
