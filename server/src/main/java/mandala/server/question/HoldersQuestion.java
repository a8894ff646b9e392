package mandala.server.question;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.ResourceCollection;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.WhoQuestion;
import mandala.document.Naming;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * What somebody asks about everybody, read from an address.
 *
 * @param what the permissions in words
 * @param place the places in words
 */
record HoldersQuestion(
    Set<PermissionKey> permissions, String what, WhoQuestion.Where where, String place) {

  /**
   * {@return what an address asks}
   *
   * @param permission keys, or none where a class or a risk is asked about
   * @throws Problem if a permission is unknown, or nothing is named
   */
  static HoldersQuestion of(
      @Nullable List<String> permission,
      @Nullable String accessClass,
      @Nullable String risk,
      WhoQuestion.Where where,
      Catalogue catalogue,
      Naming naming) {
    Set<PermissionKey> permissions = new LinkedHashSet<>();
    List<String> said = new ArrayList<>();
    for (String key : permission == null ? List.<String>of() : permission) {
      Permission it = Visibility.permission(key, catalogue, naming);
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
    return new HoldersQuestion(
        permissions, String.join(" or ", said), where, placed(where, catalogue));
  }

  /**
   * {@return the places that an address names}
   *
   * @throws Problem if there are no such places, or the viewer may not ask about them: both read
   *     the same
   */
  static WhoQuestion.Where where(
      @Nullable String on,
      @Nullable String below,
      @Nullable String collection,
      RequestContext context) {
    Catalogue in = context.asked().engine().catalogue();
    WhoQuestion.Where where;
    if (collection != null && !collection.isBlank()) {
      where = new WhoQuestion.Where.Within(new CollectionKey(collection));
    } else {
      String named = on == null || on.isBlank() ? below : on;
      ResourceKey resource = new ResourceKey(named == null || named.isBlank() ? "?" : named);
      where =
          on == null || on.isBlank()
              ? new WhoQuestion.Where.Below(resource)
              : new WhoQuestion.Where.On(resource);
    }
    List<ResourceKey> places = placesOf(where, in);
    if (places.isEmpty() || !places.stream().allMatch(it -> isAskable(it, context))) {
      throw Problem.notFound(
          "There is no '"
              + (where instanceof WhoQuestion.Where.Within(CollectionKey key)
                  ? key
                  : namedBy(where))
              + "' on which you may ask who can. Name a place by 'on' or 'below', a smaller one"
              + " perhaps, or show your second factor.");
    }
    return where;
  }

  private static String namedBy(WhoQuestion.Where where) {
    return switch (where) {
      case WhoQuestion.Where.On(ResourceKey it) -> it.value();
      case WhoQuestion.Where.Below(ResourceKey it) -> it.value();
      case WhoQuestion.Where.Within(CollectionKey it) -> it.value();
    };
  }

  /** The places on which one must be able to ask: of a tree, every account in it, too. */
  private static List<ResourceKey> placesOf(WhoQuestion.Where where, Catalogue in) {
    return switch (where) {
      case WhoQuestion.Where.On(ResourceKey it) -> in.has(it) ? List.of(it) : List.of();
      case WhoQuestion.Where.Within(CollectionKey key) -> {
        ResourceCollection it = in.collections().get(key);
        yield it == null ? List.of() : it.members();
      }
      case WhoQuestion.Where.Below(ResourceKey top) -> {
        List<ResourceKey> places = new ArrayList<>(in.has(top) ? List.of(top) : List.of());
        for (AccountKey account : in.accounts().keySet()) {
          for (ResourceKey up = ResourceKey.of(account); up != null; up = in.parentOf(up)) {
            if (up.equals(top) && !ResourceKey.of(account).equals(top)) {
              places.add(ResourceKey.of(account));
            }
          }
        }
        yield places;
      }
    };
  }

  /** Judged in the model in force; of a place that only a draft has, by the nearest above it. */
  private static boolean isAskable(ResourceKey place, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    Catalogue asked = context.asked().engine().catalogue();
    ResourceKey at = place;
    while (!live.has(at)) {
      ResourceKey parent = asked.has(at) ? asked.parentOf(at) : null;
      if (parent == null) {
        return false;
      }
      at = parent;
    }
    return context.readPolicy().mayAskWhoCan(at);
  }

  private static String placed(WhoQuestion.Where where, Catalogue in) {
    return switch (where) {
      case WhoQuestion.Where.On(ResourceKey it) -> in.nameOf(it);
      case WhoQuestion.Where.Below(ResourceKey it) -> in.nameOf(it) + " and all below it";
      case WhoQuestion.Where.Within(CollectionKey key) -> {
        ResourceCollection it = in.collections().get(key);
        yield "the collection " + (it == null ? key.value() : it.about().nameOr(key));
      }
    };
  }

  /** {@return the accounts of the places}, by key */
  List<String> accounts(Catalogue in) {
    Set<String> accounts = new LinkedHashSet<>();
    List<ResourceKey> places =
        switch (where) {
          case WhoQuestion.Where.On(ResourceKey it) -> List.of(it);
          case WhoQuestion.Where.Below(ResourceKey it) -> List.of(it);
          case WhoQuestion.Where.Within(CollectionKey key) -> {
            ResourceCollection it = in.collections().get(key);
            yield it == null ? List.of() : it.members();
          }
        };
    for (ResourceKey place : places) {
      AccountKey account = in.accountOf(place);
      if (account != null) {
        accounts.add(account.value());
      }
    }
    return List.copyOf(accounts);
  }
}
