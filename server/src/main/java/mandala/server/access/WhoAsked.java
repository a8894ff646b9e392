package mandala.server.access;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.core.engine.WhoQuestion;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Supplied;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * What somebody asks about everybody, read from an address.
 *
 * @param what the permissions in words
 * @param place the places in words
 */
record WhoAsked(
    Set<Key.Permission> permissions, String what, WhoQuestion.Where where, String place) {

  /**
   * {@return what an address asks}
   *
   * @param permission keys, or none where a class or a risk is asked about
   * @throws Problem if a permission is unknown, or nothing is named
   */
  static WhoAsked of(
      @Nullable List<String> permission,
      @Nullable String accessClass,
      @Nullable String risk,
      WhoQuestion.Where where,
      Catalogue catalogue) {
    Set<Key.Permission> permissions = new LinkedHashSet<>();
    List<String> said = new ArrayList<>();
    for (String key : permission == null ? List.<String>of() : permission) {
      Permission it = key.isBlank() ? null : catalogue.permissions().get(new Key.Permission(key));
      if (it == null) {
        throw Problem.notFound("There is no permission '" + key + "'. Choose from the list.");
      }
      permissions.add(it.key());
      said.add(it.about().nameOr(it.key()));
    }
    if (permissions.isEmpty()) {
      for (Permission it : catalogue.permissions().values()) {
        boolean fits =
            (accessClass == null || FigureView.word(it.accessClass()).equals(accessClass))
                && (risk == null || FigureView.word(it.risk()).equals(risk));
        if (fits && (accessClass != null || risk != null)) {
          permissions.add(it.key());
        }
      }
      said.add(
          (accessClass == null ? "do" : accessClass.toLowerCase(Locale.ROOT))
              + " anything"
              + (risk == null ? "" : " of risk " + risk.toLowerCase(Locale.ROOT)));
    }
    if (permissions.isEmpty()) {
      throw Problem.badRequest(
          "Who can do what?",
          "Name a 'permission', an 'accessClass' (view, change or administer) or a 'risk'.");
    }
    return new WhoAsked(permissions, String.join(" or ", said), where, placed(where, catalogue));
  }

  /**
   * {@return the places that an address names}
   *
   * @throws Problem if there are no such places
   */
  static WhoQuestion.Where where(
      @Nullable String on, @Nullable String below, @Nullable String collection, Catalogue in) {
    if (collection != null && !collection.isBlank()) {
      Key.Collection key = new Key.Collection(collection);
      if (!in.collections().containsKey(key)) {
        throw Problem.notFound("There is no collection '" + collection + "'.");
      }
      return new WhoQuestion.Where.Within(key);
    }
    String named = on == null || on.isBlank() ? below : on;
    Key.Resource resource = new Key.Resource(named == null || named.isBlank() ? "?" : named);
    if (!in.has(resource)) {
      throw Problem.notFound(
          "There is no place '" + resource + "' to ask about. Name one by 'on' or 'below'.");
    }
    return on == null || on.isBlank()
        ? new WhoQuestion.Where.Below(resource)
        : new WhoQuestion.Where.On(resource);
  }

  private static String placed(WhoQuestion.Where where, Catalogue in) {
    return switch (where) {
      case WhoQuestion.Where.On(Key.Resource it) -> in.nameOf(it);
      case WhoQuestion.Where.Below(Key.Resource it) -> in.nameOf(it) + " and all below it";
      case WhoQuestion.Where.Within(Key.Collection key) -> {
        ResourceCollection it = in.collections().get(key);
        yield "the collection " + (it == null ? key.value() : it.about().nameOr(key));
      }
    };
  }

  /**
   * One asks on every place that is named, and of a tree on every account in it.
   *
   * @throws Problem if the viewer may not
   */
  void requireAskable(Sight sight, Catalogue catalogue) {
    Set<Key.Resource> places = new LinkedHashSet<>();
    switch (where) {
      case WhoQuestion.Where.On(Key.Resource it) -> places.add(it);
      case WhoQuestion.Where.Below(Key.Resource top) -> {
        places.add(top);
        for (Key.Account account : catalogue.accounts().keySet()) {
          for (Key.Resource up = Key.Resource.of(account);
              up != null;
              up = catalogue.parentOf(up)) {
            if (up.equals(top)) {
              places.add(Key.Resource.of(account));
            }
          }
        }
      }
      case WhoQuestion.Where.Within(Key.Collection key) -> {
        ResourceCollection it = catalogue.collections().get(key);
        places.addAll(it == null ? List.of() : it.members());
      }
    }
    for (Key.Resource place : places) {
      Key.Account account = catalogue.accountOf(place);
      if (!sight.may(Supplied.ACCESS_ASK, place)
          && (account == null || !sight.may(Supplied.ACCESS_ASK, Key.Resource.of(account)))) {
        throw Problem.forbidden(
            "To ask who can, one needs “Ask about access” on "
                + catalogue.nameOf(place)
                + ". Ask about a smaller place, or an administrator for more.");
      }
    }
  }

  /** {@return the accounts of the places}, by key */
  List<String> accounts(Catalogue in) {
    Set<String> accounts = new LinkedHashSet<>();
    List<Key.Resource> places =
        switch (where) {
          case WhoQuestion.Where.On(Key.Resource it) -> List.of(it);
          case WhoQuestion.Where.Below(Key.Resource it) -> List.of(it);
          case WhoQuestion.Where.Within(Key.Collection key) -> {
            ResourceCollection it = in.collections().get(key);
            yield it == null ? List.of() : it.members();
          }
        };
    for (Key.Resource place : places) {
      Key.Account account = in.accountOf(place);
      if (account != null) {
        accounts.add(account.value());
      }
    }
    return List.copyOf(accounts);
  }
}
