package mandala.core.compiled;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.GrantIds;
import mandala.core.compiled.grants.GrantTable;
import mandala.core.compiled.rights.EffectiveRightsTable;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.ResourceSpaceBuild;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;

/**
 * Compiles a whole model. 1. People, places and rights get numbers ({@link Directory}, {@link
 * ResourceSpace}, {@link Rights}). 2. {@link #read} turns assignments and bridges into grant
 * entries. 3. {@link #sort} puts the grant entries into tables, by subject and from the other side.
 * Cost: linear, two counting sorts of all grant entries.
 */
public final class SnapshotBuild {

  private final Snapshot it;
  private final GrantTable allows = new GrantTable();
  private final GrantTable denies = new GrantTable();
  private final Anchors.Builder anchors = new Anchors.Builder();

  private SnapshotBuild(Snapshot it) {
    this.it = it;
  }

  public static Snapshot of(Catalogue catalogue) {
    Rights rights = new Rights(catalogue);
    Directory directory = new Directory(catalogue);
    ResourceSpace places = new ResourceSpace(catalogue, directory, rights);
    Snapshot it =
        new Snapshot(
            catalogue, rights, new GrantIds(), directory, PrincipalSets.of(directory), places);
    it.live = liveSpans(directory, places);
    it.unitParents = ResourceSpaceBuild.unitParents(directory);
    SnapshotBuild build = new SnapshotBuild(it);
    build.read();
    build.sort();
    return it;
  }

  private void read() {
    ClauseCompiler anchorReader = new ClauseCompiler(it.catalogue, it.places, it.rights);
    GrantReader reader =
        new GrantReader(
            it,
            (deny, subject, span, what, ref) ->
                (deny ? denies : allows).add(subject, span, what, ref),
            (ground, number) ->
                anchors.add(anchorReader.anchor(ground.clause(), ground.within()), number),
            (_, _) -> {
              // rows are laid out at the end
            });
    for (int ref = 0; ref < it.catalogue.assignments().numbers(); ref++) {
      Assignment assignment = it.catalogue.assignments().at(ref);
      if (assignment != null) {
        reader.read(ref, assignment);
      }
    }
    for (Bridge bridge : it.catalogue.bridges().values()) {
      reader.read(bridge);
    }
    for (int p = 0; p < it.catalogue.principals().numbers(); p++) {
      List<CompiledDelegation> covers = reader.covers(p);
      if (covers != null) {
        it.covers = it.covers.with(p, covers);
      }
    }
  }

  private void sort() {
    int[] numbers = {
      it.catalogue.principals().numbers(),
      it.catalogue.groups().numbers(),
      it.catalogue.accounts().numbers(),
      it.catalogue.patterns().numbers(),
      3
    };
    int positions = it.places.count + 1;
    int grounds = it.grounds.size();
    it.allow = allows.bySubject(positions, numbers);
    it.deny = denies.bySubject(positions, numbers);
    it.allowAt = allows.byPosition(positions);
    it.denyAt = denies.byPosition(positions);
    it.allowOf = allows.byGround(grounds);
    it.denyOf = denies.byGround(grounds);
    it.anchors = anchors.build();
    it.rows = EffectiveRightsTable.of(it.rights, it.given);
  }

  static Spans liveSpans(Directory directory, ResourceSpace places) {
    int[] ids =
        IntStream.range(0, directory.accounts())
            .filter(a -> directory.live[a])
            .boxed()
            .sorted((a, b) -> Integer.compare(places.accountAt[a], places.accountAt[b]))
            .mapToInt(Integer::intValue)
            .toArray();
    Spans.Builder spans = new Spans.Builder();
    Arrays.stream(ids)
        .forEach(a -> spans.add(places.accountAt[a], places.ownEnd[a], Spans.NO_FLOOR));
    return spans.build();
  }
}
