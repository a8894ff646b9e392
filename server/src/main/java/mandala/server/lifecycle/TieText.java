package mandala.server.lifecycle;

import java.util.List;
import java.util.Set;
import mandala.core.lifecycle.ColleagueCopy.Exceptional;
import mandala.core.lifecycle.Tie;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/** Says in words what ties somebody to the model. */
final class TieText {

  private final ChangeText text;
  private final Catalogue catalogue;

  TieText(RequestContext context, Catalogue catalogue) {
    this.text = context.text(catalogue, catalogue);
    this.catalogue = catalogue;
  }

  /** {@return a tie in a few words}, {@code Member of Registrars} */
  String of(Tie tie) {
    return switch (tie) {
      case Tie.Follows(var _, var pattern) ->
          "Pattern " + text.name(Kind.PATTERNS, pattern.key().value());
      case Tie.Membership(var group) -> "Member of " + text.name(Kind.GROUPS, group.key().value());
      case Tie.Assigned(var it) -> assignment(it);
      case Tie.Reaches(var _, var reach) ->
          "Reach into "
              + text.name(Kind.UNITS, reach.unit().value())
              + (reach.level() == Principal.Level.VIEW ? ", for viewing" : "");
      case Tie.GuestOf(Guest guest, int _) ->
          "Guest of " + text.name(Kind.ACCOUNTS, guest.account().value());
      case Tie.Activated(var it, int _) -> {
        Assignment of = catalogue.assignments().get(it.assignment());
        yield "Activated: " + (of == null ? it.assignment().value() : assignment(of));
      }
      case Tie.Owns(var place) -> "Owner of " + text.place(place.key());
      case Tie.AnswersFor(var thing) ->
          "Owner of the "
              + Kind.of(thing).word()
              + " "
              + text.name(Kind.of(thing), String.valueOf(thing.key()));
      case Tie.Sponsors(var service) ->
          "Answers for the service " + text.name(Kind.PRINCIPALS, service.key().value());
      case Tie.SponsorsGuest(Guest guest, int _) ->
          "Answers for the guest "
              + text.name(Kind.PRINCIPALS, guest.principal().value())
              + " in "
              + text.name(Kind.ACCOUNTS, guest.account().value());
      case Tie.Manages(var report) ->
          "Manager of " + text.name(Kind.PRINCIPALS, report.key().value());
      case Tie.Delegates(var it, boolean own) ->
          own
              ? text.name(Kind.PRINCIPALS, it.delegate().value()) + " may act for them"
              : "May act for " + text.name(Kind.PRINCIPALS, it.principal().value());
      case Tie.Expected(var it) ->
          "Named in the expectation " + text.name(Kind.EXPECTATIONS, it.key().value());
    };
  }

  private String assignment(Assignment it) {
    List<Clause> scope = it.scope().isEmpty() ? it.viewScope() : it.scope();
    return text.gives(it.gives())
        + (it.effect() == Assignment.Effect.DENY ? " denied" : "")
        + " on "
        + text.scope(scope)
        + (it.mode() == Assignment.Mode.JUST_IN_TIME ? ", just-in-time" : "");
  }

  /** {@return why somebody has something by exception}, null where they do not */
  static @Nullable String of(@Nullable Exceptional it) {
    return switch (it) {
      case null -> null;
      case Exceptional.Ends _ -> "Given for a time";
      case Exceptional.Rare(var share) ->
          share.have() + " of " + share.of() + " colleagues have it";
      case Exceptional.Personal _ -> "Given to them personally";
      case Exceptional.NotForOthers _ -> "Can't be copied";
    };
  }

  /** {@return the account of which a tie is}, null where it is of none in particular */
  @Nullable String account(Set<String> keys) {
    return keys.size() == 1 ? text.name(Kind.ACCOUNTS, keys.iterator().next()) : null;
  }
}
