package mandala.server.catalog;

import java.util.Optional;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A thing as a screen shows it.
 *
 * @param kind the name of its array in a document
 * @param account whose it is, null where it is shared
 * @param supplied whether it is locked
 * @param mark what the draft does to it: {@code adds}, {@code alters}, {@code removes}, or null
 * @param said what it says, as a sentence; its name where it says nothing
 * @param cannot why the viewer may not change or remove it, null where they may
 * @param thing the thing itself, as in a document
 */
record ThingView(
    String kind,
    @Nullable String key,
    String name,
    @Nullable String account,
    boolean supplied,
    @Nullable String mark,
    String said,
    @Nullable String cannot,
    JsonNode thing) {

  /**
   * {@return a thing that the viewer may read}; what it names is told as far as they may read it
   */
  static ThingView of(Thing thing, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    Catalogue asked = context.asked().engine().catalogue();
    Key key = thing.key();
    AccountKey account = accountOf(thing, asked);
    return new ThingView(
        Kind.of(thing).field(),
        key == null ? null : key.value(),
        context.text().name(thing),
        account == null || !context.naming().tells(Kind.ACCOUNTS, account.value())
            ? null
            : account.value(),
        key != null && key.value().startsWith(Supplied.PREFIX),
        mark(thing, live, asked),
        context.things().of(thing),
        context.cannotChange(thing),
        context.json(thing));
  }

  private static @Nullable String mark(Thing thing, Catalogue live, Catalogue asked) {
    Key key = thing.key();
    if (live.equals(asked) || (key != null && key.value().startsWith(Supplied.PREFIX))) {
      return null;
    }
    if (key == null) {
      String principal =
          thing instanceof Guest it
              ? it.principal().value()
              : ((Activation) thing).principal().value();
      boolean was = live.find(Kind.of(thing), principal).contains(thing);
      boolean is = asked.find(Kind.of(thing), principal).contains(thing);
      return was == is ? null : was ? "removes" : "adds";
    }
    Thing was = live.find(thing);
    Thing is = asked.find(thing);
    if (was == null) {
      return "adds";
    }
    return is == null ? "removes" : was.equals(is) ? null : "alters";
  }

  private static @Nullable AccountKey accountOf(Thing thing, Catalogue in) {
    return switch (thing) {
      case Account it -> it.key();
      case Unit it -> it.account();
      case Pattern it -> it.account();
      case Principal it -> it.account();
      case Guest it -> it.account();
      case Group it -> it.account();
      case ResourceType it -> it.account();
      case Permission it -> it.account();
      case PermissionSet it -> it.account();
      case Role it -> it.account();
      case Resource it -> it.account();
      case ResourceCollection it -> it.account();
      case Bridge it -> it.account();
      case Exclusion it -> it.account();
      case Expectation it -> it.account();
      case Delegation it -> home(it.principal(), in);
      case Activation it -> home(it.principal(), in);
      case Assignment _ -> null;
    };
  }

  private static @Nullable AccountKey home(PrincipalKey key, Catalogue in) {
    return Optional.ofNullable(in.principals().get(key)).map(Principal::account).orElse(null);
  }
}
