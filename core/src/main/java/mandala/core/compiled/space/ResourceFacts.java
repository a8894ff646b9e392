package mandala.core.compiled.space;

import java.util.Map;
import java.util.TreeMap;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.rights.Rights;
import mandala.core.model.Resource;

/**
 * Reads what is true of one position: type, account, nearest seal, effective unit, owner, effective
 * labels (section 1). Positions above it must have been read.
 */
final class ResourceFacts {

  private final ResourceSpace places;
  private final Directory directory;
  private final Rights rights;

  ResourceFacts(ResourceSpace places, Directory directory, Rights rights) {
    this.places = places;
    this.directory = directory;
    this.rights = rights;
  }

  void read(int at, Map<Map<String, String>, Integer> labelIds) {
    if (places.node[at] < 0) {
      gap(at);
      return;
    }
    int number = places.number(at);
    int up = places.parent[at];
    places.owner[at] = -1;
    places.unit[at] = up < 0 ? -1 : places.unit[up];
    boolean sealed = false;
    Map<String, String> own = Map.of();
    var catalogue = places.catalogue;
    switch (places.kind(at)) {
      case ResourceSpace.ACCOUNT -> {
        places.type[at] = rights.accountType;
        places.account[at] = number;
        places.unit[at] = -1;
        sealed = catalogue.accounts().the(number).sealed();
      }
      case ResourceSpace.UNIT -> {
        places.type[at] = rights.unitType;
        places.account[at] = catalogue.accounts().require(catalogue.units().the(number).account());
        places.unit[at] = number;
      }
      case ResourceSpace.GROUP -> {
        places.type[at] = rights.groupType;
        places.account[at] = catalogue.accounts().require(catalogue.groups().the(number).account());
      }
      default -> {
        Resource it = catalogue.resources().the(number);
        places.type[at] = rights.type(it.type());
        places.account[at] = catalogue.accounts().require(it.account());
        if (it.unit() != null) {
          places.unit[at] = catalogue.units().require(it.unit());
        }
        if (it.owner() != null) {
          places.owner[at] = catalogue.principals().require(it.owner());
        }
        sealed = it.sealed();
        own = it.labels();
      }
    }
    places.seal[at] = sealed ? at : up < 0 ? -1 : places.seal[up];
    places.labels[at] = up < 0 || !own.isEmpty() ? labels(up, own, labelIds) : places.labels[up];
    if (directory.accounts() != places.accountAt.length) {
      throw new IllegalStateException("Impossible state: places of another directory");
    }
  }

  private void gap(int at) {
    int up = places.parent[at];
    places.type[at] = -1;
    places.account[at] = up < 0 ? -1 : places.account[up];
    places.seal[at] = up < 0 ? -1 : places.seal[up];
    places.unit[at] = -1;
    places.owner[at] = -1;
    places.labels[at] = 0;
  }

  private int labels(int up, Map<String, String> own, Map<Map<String, String>, Integer> labelIds) {
    Map<String, String> effective =
        new TreeMap<>(up < 0 ? Map.of() : places.labelSets.get(places.labels[up]));
    effective.putAll(own);
    Integer known = labelIds.get(effective);
    if (known == null) {
      known = places.labelSets.size();
      labelIds.put(effective, known);
      places.labelSets.add(effective);
    }
    return known;
  }
}
