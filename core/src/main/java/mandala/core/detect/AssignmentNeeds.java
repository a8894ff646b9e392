package mandala.core.detect;

import java.time.LocalDate;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.model.Assignment;
import mandala.core.model.Permission;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * What is needed, young or not observed of what each assignment gives, to all who have it. Read
 * person by person, {@link Part} by part; the parts may come from any thread.
 */
final class AssignmentNeeds {

  private final Basis basis;

  /** By number of the assignment. */
  private final Map<Integer, Needed> needed = new HashMap<>();

  AssignmentNeeds(Basis basis) {
    this.basis = basis;
  }

  /** On how many days a critical permission was used, and the last of them. */
  record Days(int permission, int days, LocalDate last) {}

  /** What is needed of one assignment. */
  static final class Needed {
    private int first = Integer.MAX_VALUE;
    private int last = -1;
    private final BitSet permissions = new BitSet();
    private @Nullable Days days;

    /** Whether a critical permission must stay for another reason than use. */
    private boolean demanded;

    /** {@return the first position that is needed} */
    int first() {
      return first;
    }

    /** {@return the last position that is needed} */
    int last() {
      return last;
    }

    /** {@return the numbers of the permissions that are needed} */
    BitSet permissions() {
      return permissions;
    }

    /** {@return the critical one used on the most days}, null where use alone doesn't say so */
    @Nullable Days often() {
      return demanded ? null : days;
    }

    private void add(int permission, int position) {
      first = Math.min(first, position);
      last = Math.max(last, position);
      permissions.set(permission);
    }

    private void add(Needed other) {
      first = Math.min(first, other.first);
      last = Math.max(last, other.last);
      permissions.or(other.permissions);
      demanded |= other.demanded;
      if (other.days != null) {
        used(other.days);
      }
    }

    private void used(Days more) {
      Days known = days;
      if (known == null) {
        days = more;
        return;
      }
      boolean oftener =
          more.days() > known.days()
              || (more.days() == known.days() && more.permission() < known.permission());
      Days of = oftener ? more : known;
      LocalDate latest = more.last().isAfter(known.last()) ? more.last() : known.last();
      days = new Days(of.permission(), of.days(), latest);
    }
  }

  /** {@return what is needed of an assignment}, null where nothing is */
  @Nullable Needed of(Assignment it) {
    return needed.get(basis.catalogue.assignments().number(it.key()));
  }

  private record Right(PermissionKey permission, ResourceKey resource) {}

  /** What some people need. For one thread. */
  final class Part {
    private final Map<Integer, Needed> some = new HashMap<>();

    /** {@return what reads somebody's rights into this} */
    ExcessStudy.KeptVisitor reader(PrincipalKey who) {
      Map<Right, Use.Used> used = new HashMap<>();
      for (Use.Used it : basis.inquiry.use().of(who)) {
        if (basis.risk(it.permission()) == Permission.Risk.CRITICAL) {
          used.put(new Right(it.permission(), it.resource()), it);
        }
      }
      return (permission, position, givers) -> {
        Permission it = basis.study.permission(permission);
        boolean critical = it.risk() == Permission.Risk.CRITICAL;
        Use.Used days =
            critical ? used.get(new Right(it.key(), basis.study.resource(position))) : null;
        for (int i = 0; i < givers.size(); i++) {
          if (givers.ref(i) >= 0 && givers.now(i)) {
            Needed needs = some.computeIfAbsent(givers.ref(i), _ -> new Needed());
            needs.add(permission, position);
            if (days != null) {
              needs.used(new Days(permission, days.days(), days.last()));
            } else if (critical) {
              needs.demanded = true;
            }
          }
        }
      };
    }

    /** Adds it to what all need. */
    void close() {
      synchronized (needed) {
        some.forEach((ref, it) -> needed.computeIfAbsent(ref, _ -> new Needed()).add(it));
      }
    }
  }
}
