package mandala.core.compiled;

import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.grants.GrantIds;
import mandala.core.compiled.grants.GrantTable;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsTable;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceChangeLog;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Catalogue;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * A checked model compiled for answering: dense, immutable once published, safe to share between
 * threads. {@link SnapshotBuild} makes one of a model, {@link SnapshotEdit} the next one of a
 * change, sharing all that did not change.
 */
public final class Snapshot {

  private static final AtomicLong NUMBERS = new AtomicLong();

  /**
   * No other snapshot has it, and those that came of this one have greater ones. Several may come
   * of one: the model that goes on, and drafts laid over it.
   */
  public final long number = NUMBERS.incrementAndGet();

  public final Catalogue catalogue;
  public final Rights rights;
  public final GrantIds grantIds;
  public Directory directory;
  public PrincipalSets people;
  public ResourceSpace places;

  /** The accounts that are live, as spans. */
  public Spans live;

  /** By unit: the one above, or -1. */
  public int[] unitParents;

  /** What each number of the numbering comes to here. */
  public Table<EffectiveRights> given;

  public Table<CompiledClause> grounds;

  /** The same as rows and bits, laid out for speed. */
  public EffectiveRightsTable rows;

  /** By assignment: its window, where it has one. */
  public Table<TimeSpan> times;

  /**
   * By kind of subject, by its number: its grant entries that allow; that deny ({@link
   * GrantTable}).
   */
  Table<long[]>[] allow;

  Table<long[]>[] deny;

  /**
   * The same grant entries from the other side: by the position where a plain grant entry begins;
   * by compiled clause.
   */
  public Table<long[]> allowAt;

  public Table<long[]> denyAt;
  public Table<long[]> allowOf;
  public Table<long[]> denyOf;
  public Anchors anchors;

  /** By principal: the delegations in which it is acted for. */
  public Table<List<CompiledDelegation>> covers;

  /** Where places changed since the model was first compiled; what was compiled before minds. */
  public ResourceChangeLog placeLog;

  Snapshot(
      Catalogue catalogue,
      Rights rights,
      GrantIds grantIds,
      Directory directory,
      PrincipalSets people,
      ResourceSpace places) {
    this.catalogue = catalogue;
    this.rights = rights;
    this.grantIds = grantIds;
    this.directory = directory;
    this.people = people;
    this.places = places;
    this.placeLog = ResourceChangeLog.EMPTY;
    this.covers = Table.empty();
    this.live = Spans.EMPTY;
    this.unitParents = Directory.NONE;
    this.given = Table.empty();
    this.grounds = Table.empty();
    this.rows = EffectiveRightsTable.none(rights);
    this.times = Table.empty();
    this.allow = tables();
    this.deny = tables();
    this.allowAt = Table.empty();
    this.denyAt = Table.empty();
    this.allowOf = Table.empty();
    this.denyOf = Table.empty();
    this.anchors = new Anchors.Builder().build();
  }

  /** A copy to be changed before it is published. */
  Snapshot(Snapshot before, Catalogue catalogue) {
    this.catalogue = catalogue;
    this.rights = before.rights;
    this.grantIds = before.grantIds;
    this.directory = new Directory(before.directory, catalogue);
    this.people = before.people;
    this.places = new ResourceSpace(before.places, catalogue);
    this.live = before.live;
    this.unitParents = before.unitParents;
    this.given = before.given;
    this.grounds = before.grounds;
    this.rows = before.rows;
    this.times = before.times;
    this.allow = before.allow.clone();
    this.deny = before.deny.clone();
    this.allowAt = before.allowAt;
    this.denyAt = before.denyAt;
    this.allowOf = before.allowOf;
    this.denyOf = before.denyOf;
    this.anchors = before.anchors;
    this.covers = before.covers;
    this.placeLog = before.placeLog;
  }

  @SuppressWarnings({"unchecked", "rawtypes"}) // filled with tables of long[] only
  private static Table<long[]>[] tables() {
    Table<long[]>[] tables = new Table[GrantEntry.SUBJECT_KINDS];
    for (int kind = 0; kind < tables.length; kind++) {
      tables[kind] = Table.empty();
    }
    return tables;
  }

  /** {@return the grant entries of a subject that allow or deny}, or null */
  public long @Nullable [] lines(boolean denying, int subject) {
    return (denying ? deny : allow)[GrantEntry.kind(subject)].get(GrantEntry.number(subject));
  }

  /** Stands for the number of a principal that there is none of. */
  public static final int UNKNOWN = -2;

  /** {@return the number of a principal}, -1 for anonymous, {@link #UNKNOWN} where there is none */
  public int principal(mandala.core.model.key.PrincipalKey key) {
    if (key.equals(mandala.core.model.key.PrincipalKey.ANONYMOUS)) {
      return -1;
    }
    int number = catalogue.principals().number(key);
    return number < 0 ? UNKNOWN : number;
  }
}
