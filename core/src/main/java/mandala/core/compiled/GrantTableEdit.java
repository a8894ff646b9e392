package mandala.core.compiled;

import java.util.LinkedHashSet;
import java.util.Set;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.grants.GrantTable;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import org.jspecify.annotations.Nullable;

/**
 * Takes grant entries out of a snapshot that is not yet published, and puts grant entries in. A
 * subject's grant entries and the lists from the other side are copied, all else is shared.
 */
final class GrantTableEdit {

  private final Catalogue before;
  private final Snapshot it;
  private final GrantReader reader;

  GrantTableEdit(Catalogue before, Snapshot it) {
    this.before = before;
    this.it = it;
    ClauseCompiler anchors = new ClauseCompiler(it.catalogue, it.places, it.rights);
    reader =
        new GrantReader(
            it,
            this::put,
            (ground, number) ->
                it.anchors =
                    it.anchors.with(anchors.anchor(ground.clause(), ground.within()), number),
            (given, number) ->
                it.rows =
                    it.rows.with(it.rights, number, EffectiveRights.nothing(it.rights), given));
  }

  GrantReader reader() {
    return reader;
  }

  /** Reads an assignment anew, or takes it out where it is no more. */
  void assignment(AssignmentKey key) {
    Assignment was = before.assignments().get(key);
    if (was != null) {
      int ref = before.assignments().require(key);
      takeOut(GrantEntry.code(was.subject(), before), ref);
      it.times = it.times.with(ref, null);
    }
    Assignment now = it.catalogue.assignments().get(key);
    if (now != null) {
      reader.read(it.catalogue.assignments().require(key), now);
    }
  }

  /** Reads a bridge anew, or takes it out where it is no more. */
  void bridge(BridgeKey key) {
    Bridge was = before.bridges().get(key);
    if (was != null) {
      takeOut(
          GrantEntry.code(new Subject.OfGroup(was.group()), before),
          ~before.bridges().require(key));
    }
    Bridge now = it.catalogue.bridges().get(key);
    if (now != null) {
      reader.read(now);
    }
  }

  private void put(boolean deny, int subject, long span, long what, int ref) {
    int kind = GrantEntry.kind(subject);
    int number = GrantEntry.number(subject);
    var tables = deny ? it.deny : it.allow;
    tables[kind] =
        tables[kind].with(number, GrantTable.with(tables[kind].get(number), span, what, ref));
    int ground = GrantEntry.ground(what);
    int at = ground == 0 ? GrantEntry.start(span) : ground;
    var lists = ground == 0 ? deny ? it.denyAt : it.allowAt : deny ? it.denyOf : it.allowOf;
    lists = lists.with(at, GrantTable.withHolder(lists.get(at), subject, span, what, ref));
    set(deny, ground == 0, lists);
  }

  private void set(boolean deny, boolean plain, mandala.core.table.Table<long[]> lists) {
    if (plain && deny) {
      it.denyAt = lists;
    } else if (plain) {
      it.allowAt = lists;
    } else if (deny) {
      it.denyOf = lists;
    } else {
      it.allowOf = lists;
    }
  }

  private void takeOut(int subject, int ref) {
    takeOut(false, subject, ref);
    takeOut(true, subject, ref);
  }

  private void takeOut(boolean deny, int subject, int ref) {
    var tables = deny ? it.deny : it.allow;
    int kind = GrantEntry.kind(subject);
    int number = GrantEntry.number(subject);
    long[] lines = tables[kind].get(number);
    if (lines == null) {
      return;
    }
    int n = lines.length / 3;
    for (int i = 0; i < n; i++) {
      if ((int) lines[2 * n + i] == ref) {
        int ground = GrantEntry.ground(lines[n + i]);
        int at = ground == 0 ? GrantEntry.start(lines[i]) : ground;
        var lists = ground == 0 ? deny ? it.denyAt : it.allowAt : deny ? it.denyOf : it.allowOf;
        long[] list = lists.get(at);
        if (list != null) {
          set(deny, ground == 0, lists.with(at, GrantTable.withoutHolder(list, ref)));
        }
      }
    }
    tables[kind] = tables[kind].with(number, GrantTable.without(lines, ref));
  }

  /** Gathers the refs of the grant entries in a list from the other side. */
  static void refs(long @Nullable [] list, Set<Integer> into) {
    int n = list == null ? 0 : list.length / 3;
    for (int i = 0; i < n && list != null; i++) {
      into.add((int) list[n + i]);
    }
  }

  /** Reads anew whatever has these refs and is still there. */
  void reread(Set<Integer> refs) {
    for (int ref : new LinkedHashSet<>(refs)) {
      if (ref < 0) {
        Bridge bridge = before.bridges().at(~ref);
        if (bridge != null) {
          bridge(bridge.key());
        }
      } else {
        Assignment assignment = before.assignments().at(ref);
        if (assignment != null) {
          assignment(assignment.key());
        }
      }
    }
  }
}
