package mandala.core.model;

import mandala.core.model.key.Key;

/** The text by which things of one kind are ordered. */
final class SortKey {

  private SortKey() {}

  static String of(Thing thing) {
    Key key = thing.key();
    if (key != null) {
      return key.value();
    }
    return switch (thing) {
      case Guest it ->
          it.principal()
              + " "
              + it.account()
              + span(it.window())
              + it.withSubaccounts()
              + " "
              + it.about();
      case Activation it -> it.principal() + " " + it.assignment() + span(it.window()) + it.about();
      default -> throw new IllegalStateException("Impossible state: a keyless " + thing);
    };
  }

  private static String span(Window window) {
    return " " + window.from() + " " + window.until() + " ";
  }
}
