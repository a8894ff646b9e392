package mandala.server.question;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import mandala.core.analysis.Compared;
import mandala.core.analysis.HypotheticalPrincipal;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * One side of a comparison: a person, what a role gives on a whole account, what a new person of a
 * pattern would have, or what somebody's colleagues have in common.
 *
 * @param kind {@code person}, {@code role}, {@code pattern} or {@code colleagues}
 * @param key of the person, role or pattern; of whom they are the colleagues
 * @param note what the name does not say, or null
 * @param principal the person, where it is one
 */
record ComparedSide(
    String kind,
    String key,
    String name,
    @Nullable String note,
    @Nullable Principal principal,
    Access access,
    long revision,
    Instant at) {

  /**
   * Where and when a side is looked at.
   *
   * @param in the account that a role is held on, or null for the home of {@code like}
   * @param like the person on the other side, or null where there is none
   */
  record Setting(
      RequestContext context,
      Instant at,
      boolean secondFactor,
      @Nullable AccountKey in,
      @Nullable Principal like) {

    Engine engine() {
      return context.asked().engine();
    }

    Catalogue catalogue() {
      return engine().catalogue();
    }

    /** The account where what is nobody's is held. */
    AccountKey account() {
      Principal person = like;
      if (in != null) {
        return in;
      }
      if (person != null) {
        return person.account();
      }
      throw Problem.badRequest(
          "In which account?", "Name one by 'in', or compare with somebody of it.");
    }
  }

  /** {@return why nothing is allowed at all}, as {@link AccessQuestion#refusal} says it */
  @Nullable String refusal() {
    Principal whose = principal;
    return whose != null && !access.catalogue().principals().containsKey(whose.key())
        ? AccessQuestion.ABSENT
        : access.refusal().map(Verdict::word).orElse(null);
  }

  /** {@return the person that an address names}, null where it names something else */
  static @Nullable Principal personIn(String named, Catalogue catalogue) {
    return parsed(named) instanceof Compared.Person(PrincipalKey key)
        ? catalogue.principals().get(key)
        : null;
  }

  /**
   * {@return the side that an address names}
   *
   * @param named as {@link Compared#parse} reads it
   * @throws Problem if there is no such thing, or the viewer may not ask about it
   */
  static ComparedSide of(String named, Setting setting) {
    return switch (parsed(named)) {
      case Compared.Person(PrincipalKey key) -> ofPerson(key.value(), setting);
      case Compared.OfRole(RoleKey key) -> ofRole(key, setting);
      case Compared.OfPattern(PatternKey key) -> ofPattern(key, setting);
      case Compared.OfColleagues(PrincipalKey key) -> ofColleagues(key.value(), setting);
    };
  }

  private static Compared parsed(String named) {
    try {
      return Compared.parse(named);
    } catch (IllegalArgumentException e) {
      throw Problem.badRequest(
          "Compared with what?", e.getMessage() + ". Correct it and try again.");
    }
  }

  private static ComparedSide ofPerson(String key, Setting setting) {
    Principal person = person(key, setting);
    boolean there = setting.catalogue().principals().containsKey(person.key());
    return new ComparedSide(
        "person",
        key,
        person.about().nameOr(person.key()),
        person.attributes().get(Peers.TITLE),
        person,
        there
            ? setting
                .engine()
                .access(new Session(person.key(), setting.at(), setting.secondFactor(), null))
            : setting.engine().nothing(),
        setting.context().asked().revision(),
        setting.at());
  }

  private static Principal person(String key, Setting setting) {
    AskablePrincipal asked = AskablePrincipal.of(setting.context(), key, null);
    if (asked.only() != null) {
      throw Problem.forbidden(
          "You may ask about some of the access of '"
              + key
              + "' only, so that it cannot be compared. Ask what they can do there instead.");
    }
    Principal then = setting.catalogue().principals().get(asked.principal().key());
    return then == null ? asked.principal() : then;
  }

  /** What is nobody's tells how an account is arranged: one asks on the account. */
  private static AccountKey askable(Setting setting) {
    AccountKey account = setting.account();
    if (!setting.context().readPolicy().may(Supplied.ACCESS_ASK, ResourceKey.of(account))) {
      throw Problem.forbidden(
          "To compare with a role or a pattern you need “Ask about access” on "
              + setting.catalogue().nameOf(ResourceKey.of(account))
              + ". Choose an account in which you have it.");
    }
    return account;
  }

  private static ComparedSide ofRole(RoleKey key, Setting setting) {
    Role role = setting.catalogue().roles().get(key);
    if (role == null || !setting.context().readPolicy().mayRead(role, setting.catalogue())) {
      throw Problem.notFound("There is no role '" + key + "' that you may read.");
    }
    AccountKey account = askable(setting);
    return made(
        "role",
        key.value(),
        role.about().nameOr(role.key()),
        "held on all of " + setting.catalogue().nameOf(ResourceKey.of(account)),
        HypotheticalPrincipal.ofRole(setting.engine(), role.key(), account, setting.at()),
        setting);
  }

  private static ComparedSide ofPattern(PatternKey key, Setting setting) {
    Pattern pattern = setting.catalogue().patterns().get(key);
    Principal like = setting.like();
    if (pattern == null || !setting.context().readPolicy().mayRead(pattern, setting.catalogue())) {
      throw Problem.notFound("There is no pattern '" + key + "' that you may read.");
    }
    if (like == null) {
      throw Problem.badRequest(
          "A pattern is compared with a person",
          "What it gives depends on the unit and the facts of whom it is given to.");
    }
    askable(setting);
    return made(
        "pattern",
        key.value(),
        pattern.about().nameOr(pattern.key()),
        "somebody new of this pattern, else like " + like.about().nameOr(like.key()),
        HypotheticalPrincipal.ofPattern(setting.engine(), pattern.key(), like, setting.at()),
        setting);
  }

  private static ComparedSide ofColleagues(String key, Setting setting) {
    Principal whose = person(key, setting);
    if (!setting.catalogue().principals().containsKey(whose.key())) {
      throw Problem.notFound("'" + key + "' was not in the directory then. Choose another time.");
    }
    ReadPolicy readPolicy = setting.context().readPolicy();
    Peers all = Peers.of(setting.engine(), whose, setting.at());
    List<PrincipalKey> askable =
        all.people().stream()
            .filter(it -> {
              Principal each = setting.catalogue().principals().get(it);
              return each != null && readPolicy.cutFor(each) instanceof ReadPolicy.Cut.Whole;
            })
            .toList();
    String name = whose.about().nameOr(whose.key());
    if (askable.size() < Peers.FEWEST) {
      throw Problem.badRequest(
          "Too few colleagues",
          name
              + " has fewer than "
              + Peers.FEWEST
              + " colleagues of the same pattern, title or unit whom you can ask about."
              + " Compare with one person instead.");
    }
    Peers told = new Peers(all.basis(), askable);
    return made(
        "colleagues",
        key,
        "Colleagues of " + name,
        "what at least "
            + told.least()
            + " of "
            + told.people().size()
            + " of the same "
            + all.basis().name().toLowerCase(Locale.ROOT)
            + " have",
        told.core(setting.engine(), setting.at()),
        setting);
  }

  private static ComparedSide made(
      String kind, String key, String name, String note, Access access, Setting setting) {
    return new ComparedSide(
        kind, key, name, note, null, access, setting.context().asked().revision(), setting.at());
  }
}
