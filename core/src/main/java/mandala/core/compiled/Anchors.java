package mandala.core.compiled;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.function.IntConsumer;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.table.IntList;
import mandala.core.table.Table;

/**
 * Where who-can finds the compiled clauses that may cover a resource: each stands at the narrowest
 * thing it names. Immutable.
 */
public final class Anchors {

  private static final int[] NONE = Directory.NONE;

  private final Table<int[]> atPosition;
  private final Table<int[]> inUnit;
  private final Table<int[]> ofType;
  private final Map<Map.Entry<String, String>, int[]> withLabel;
  private final int[] everywhere;

  private Anchors(
      Table<int[]> atPosition,
      Table<int[]> inUnit,
      Table<int[]> ofType,
      Map<Map.Entry<String, String>, int[]> withLabel,
      int[] everywhere) {
    this.atPosition = atPosition;
    this.inUnit = inUnit;
    this.ofType = ofType;
    this.withLabel = withLabel;
    this.everywhere = everywhere;
  }

  /** Gathers anchors while a snapshot is built. */
  static final class Builder {
    private final Map<Integer, IntList> atPosition = new HashMap<>();
    private final Map<Integer, IntList> inUnit = new HashMap<>();
    private final Map<Integer, IntList> ofType = new HashMap<>();
    private final Map<Map.Entry<String, String>, IntList> withLabel = new HashMap<>();
    private final IntList everywhere = new IntList();

    public void add(ClauseCompiler.Anchor anchor, int ground) {
      switch (anchor) {
        case ClauseCompiler.Anchor.AtPositions(var positions) ->
            positions.forEach(at -> put(atPosition, at, ground));
        case ClauseCompiler.Anchor.InUnit(int unit) -> put(inUnit, unit, ground);
        case ClauseCompiler.Anchor.OfType(int type) -> put(ofType, type, ground);
        case ClauseCompiler.Anchor.WithLabel(var label) -> put(withLabel, label, ground);
        case ClauseCompiler.Anchor.Everywhere() -> everywhere.add(ground);
      }
    }

    private static <K> void put(Map<K, IntList> lists, K key, int ground) {
      lists.computeIfAbsent(key, _ -> new IntList()).add(ground);
    }

    public Anchors build() {
      Map<Map.Entry<String, String>, int[]> labels = new HashMap<>();
      withLabel.forEach((label, list) -> labels.put(label, list.toArray()));
      return new Anchors(
          table(atPosition), table(inUnit), table(ofType), labels, everywhere.toArray());
    }

    private static Table<int[]> table(Map<Integer, IntList> lists) {
      int[][] arrays =
          new int[lists.keySet().stream().mapToInt(Integer::intValue).max().orElse(-1) + 1][];
      lists.forEach((at, list) -> arrays[at] = list.toArray());
      return Table.of(arrays);
    }
  }

  /** {@return anchors with one more compiled clause} */
  Anchors with(ClauseCompiler.Anchor anchor, int ground) {
    return switch (anchor) {
      case ClauseCompiler.Anchor.AtPositions(var positions) -> {
        Table<int[]> table = atPosition;
        for (int at : positions) {
          table = plus(table, at, ground);
        }
        yield new Anchors(table, inUnit, ofType, withLabel, everywhere);
      }
      case ClauseCompiler.Anchor.InUnit(int unit) ->
          new Anchors(atPosition, plus(inUnit, unit, ground), ofType, withLabel, everywhere);
      case ClauseCompiler.Anchor.OfType(int type) ->
          new Anchors(atPosition, inUnit, plus(ofType, type, ground), withLabel, everywhere);
      case ClauseCompiler.Anchor.WithLabel(var label) -> {
        Map<Map.Entry<String, String>, int[]> labels = new HashMap<>(withLabel);
        labels.put(label, plus(labels.getOrDefault(label, NONE), ground));
        yield new Anchors(atPosition, inUnit, ofType, labels, everywhere);
      }
      case ClauseCompiler.Anchor.Everywhere() ->
          new Anchors(atPosition, inUnit, ofType, withLabel, plus(everywhere, ground));
    };
  }

  /** {@return anchors without a compiled clause where it stood} */
  Anchors without(ClauseCompiler.Anchor anchor, int ground) {
    return switch (anchor) {
      case ClauseCompiler.Anchor.AtPositions(var positions) -> {
        Table<int[]> table = atPosition;
        for (int at : positions) {
          table = table.with(at, minus(table.getOr(at, NONE), ground));
        }
        yield new Anchors(table, inUnit, ofType, withLabel, everywhere);
      }
      case ClauseCompiler.Anchor.InUnit(int unit) -> {
        Table<int[]> table = inUnit.with(unit, minus(inUnit.getOr(unit, NONE), ground));
        yield new Anchors(atPosition, table, ofType, withLabel, everywhere);
      }
      case ClauseCompiler.Anchor.OfType(int type) -> {
        Table<int[]> table = ofType.with(type, minus(ofType.getOr(type, NONE), ground));
        yield new Anchors(atPosition, inUnit, table, withLabel, everywhere);
      }
      case ClauseCompiler.Anchor.WithLabel(var label) -> {
        Map<Map.Entry<String, String>, int[]> labels = new HashMap<>(withLabel);
        labels.put(label, minus(labels.getOrDefault(label, NONE), ground));
        yield new Anchors(atPosition, inUnit, ofType, labels, everywhere);
      }
      case ClauseCompiler.Anchor.Everywhere() ->
          new Anchors(atPosition, inUnit, ofType, withLabel, minus(everywhere, ground));
    };
  }

  private static Table<int[]> plus(Table<int[]> table, int at, int ground) {
    return table.with(at, plus(table.getOr(at, NONE), ground));
  }

  private static int[] plus(int[] list, int ground) {
    int[] longer = Arrays.copyOf(list, list.length + 1);
    longer[list.length] = ground;
    return longer;
  }

  private static int[] minus(int[] list, int ground) {
    return Arrays.stream(list).filter(it -> it != ground).toArray();
  }

  /**
   * Names every compiled clause that may cover a position; one of several tops may come more than
   * once.
   */
  public void forEach(ResourceSpace places, int[] unitParents, int at, IntConsumer grounds) {
    for (int here = at; here >= 0; here = places.parent[here]) {
      all(atPosition.getOr(here, NONE), grounds);
    }
    for (int unit = places.unit[at]; unit >= 0; unit = unitParents[unit]) {
      all(inUnit.getOr(unit, NONE), grounds);
    }
    all(ofType.getOr(places.type[at], NONE), grounds);
    if (!withLabel.isEmpty()) {
      for (Map.Entry<String, String> label : places.labelSets.get(places.labels[at]).entrySet()) {
        all(withLabel.getOrDefault(label, NONE), grounds);
      }
    }
    all(everywhere, grounds);
  }

  private static void all(int[] list, IntConsumer grounds) {
    for (int ground : list) {
      grounds.accept(ground);
    }
  }
}
