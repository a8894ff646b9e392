package mandala.core.model.check;

import java.util.ArrayList;
import java.util.List;

/** Gathers faults in the order in which they are found. */
final class Faults {

  private final List<Fault> found = new ArrayList<>();

  List<Fault> found() {
    return List.copyOf(found);
  }

  Place at(String path) {
    return new Place(path);
  }

  /** A place in the document that faults are reported at. */
  final class Place {
    private final String path;

    private Place(String path) {
      this.path = path;
    }

    Place field(String name) {
      return new Place(path + "." + name);
    }

    Place index(int index) {
      return new Place(path + "[" + index + "]");
    }

    void report(String what, String next) {
      found.add(new Fault(path, what, next));
    }

    /** Reports a reference to something that is not there, unless it is. */
    void requireKnown(boolean known, String kind, Object key) {
      if (!known) {
        report(
            "there is no " + kind + " '" + key + "'",
            "Name one that exists, or add it to the document");
      }
    }
  }
}
