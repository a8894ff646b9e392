package mandala.core.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Thing;
import org.jspecify.annotations.Nullable;

/**
 * A draft carried over to a model that others have changed since. What they left alone stays; what
 * both altered in different fields is joined; what is as wanted already drops out; the rest clashes
 * and is to be decided by a person.
 *
 * @param draft what can be made now: fits the newer model, clashing things left out
 * @param clashes what cannot be joined
 * @param done things that are now as the draft wanted them
 */
public record Rebase(Draft draft, List<Clash> clashes, List<Draft.Id> done) {

  /** Copies its lists. */
  public Rebase {
    clashes = List.copyOf(clashes);
    done = List.copyOf(done);
  }

  /**
   * Something that two people changed in ways that do not go together.
   *
   * @param mine the draft's change
   * @param theirs the thing as it is now, null where it is gone
   * @param fields the fields that differ; none where one of both removed or added the thing
   * @param joined the thing with my clashing fields and all else joined; null where it is gone, or
   *     mine removes it
   */
  public record Clash(
      Change mine, @Nullable Thing theirs, List<String> fields, @Nullable Thing joined) {
    /** Copies its fields. */
    public Clash {
      fields = List.copyOf(fields);
    }

    /** {@return the change that makes mine true over theirs}, null where nothing is left to do */
    public @Nullable Change mineOverTheirs() {
      Thing now = theirs;
      return switch (mine) {
        case Change.Removed _ -> now == null ? null : new Change.Removed(now);
        case Change.Added(Thing thing) ->
            now == null ? mine : new Change.Altered(now, joined == null ? thing : joined);
        case Change.Altered(var _, Thing after) ->
            now == null
                ? new Change.Added(after)
                : new Change.Altered(now, joined == null ? after : joined);
      };
    }
  }

  /** {@return a draft carried over to a newer model} */
  public static Rebase of(Draft draft, Catalogue now) {
    List<Change> kept = new ArrayList<>();
    List<Clash> clashes = new ArrayList<>();
    List<Draft.Id> done = new ArrayList<>();
    for (Change change : draft.changes()) {
      Thing current = current(change, now);
      switch (change) {
        case Change.Added(Thing mine) -> {
          if (current == null) {
            kept.add(change);
          } else if (current.equals(mine)) {
            done.add(Draft.Id.of(change));
          } else {
            clashes.add(new Clash(change, current, differing(mine, current), mine));
          }
        }
        case Change.Removed(Thing mine) -> {
          if (current == null) {
            done.add(Draft.Id.of(change));
          } else if (current.equals(mine)) {
            kept.add(change);
          } else {
            clashes.add(new Clash(change, current, differing(mine, current), null));
          }
        }
        case Change.Altered(Thing before, Thing mine) -> {
          if (current == null) {
            clashes.add(new Clash(change, null, List.of(), null));
          } else if (current.equals(mine)) {
            done.add(Draft.Id.of(change));
          } else {
            Merge.Result merged = Merge.of(before, mine, current);
            if (!merged.clashes().isEmpty()) {
              clashes.add(new Clash(change, current, merged.clashes(), merged.thing()));
            } else if (merged.thing().equals(current)) {
              done.add(Draft.Id.of(change));
            } else {
              kept.add(new Change.Altered(current, merged.thing()));
            }
          }
        }
      }
    }
    return new Rebase(new Draft(kept), clashes, done);
  }

  private static @Nullable Thing current(Change change, Catalogue now) {
    Thing thing = change.things().getFirst();
    return thing.key() == null ? (Changes.isThere(now, thing) ? thing : null) : now.find(thing);
  }

  private static List<String> differing(Thing one, Thing other) {
    Map<String, ?> first = Fields.of(one);
    Map<String, ?> second = Fields.of(other);
    Set<String> names =
        first.keySet().stream()
            .filter(name -> !java.util.Objects.equals(first.get(name), second.get(name)))
            .collect(Collectors.toCollection(java.util.LinkedHashSet::new));
    return List.copyOf(names);
  }
}
