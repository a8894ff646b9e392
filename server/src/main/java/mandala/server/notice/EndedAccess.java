package mandala.server.notice;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.function.BiConsumer;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Tells people of their own assignments, guest memberships and delegations that ended. */
@Component
class EndedAccess implements RecurringWork {

  /** What ended longer ago is not told any more: no server ran for that long. */
  private static final Duration LATEST = Duration.ofDays(7);

  private final LiveModel model;
  private final Notices notices;
  private final RequestContexts contexts;
  private final Clock clock;

  EndedAccess(LiveModel model, Notices notices, RequestContexts contexts, Clock clock) {
    this.model = model;
    this.notices = notices;
    this.contexts = contexts;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "ended-access";
  }

  @Override
  public String description() {
    return "Tells people of their own access that ended.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofMinutes(10));
  }

  @Override
  public void run(Instant due) {
    Catalogue catalogue = model.engine().catalogue();
    Instant now = clock.instant();
    for (Assignment it : catalogue.assignments().values()) {
      if (ended(it.window(), now)
          && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey who)) {
        tell(
            "assignment " + it.key() + " " + it.window().until(),
            who,
            (text, said) ->
                said.append("Your assignment of ")
                    .append(text.gives(it.gives()))
                    .append(" ended."));
      }
    }
    for (Guest it : catalogue.model().guests()) {
      if (ended(it.window(), now)) {
        tell(
            "guest " + it.account() + " " + it.window().until(),
            it.principal(),
            (text, said) ->
                said.append("You are no longer a guest of ")
                    .append(text.name(Kind.ACCOUNTS, it.account().value()))
                    .append('.'));
      }
    }
    for (Delegation it : catalogue.delegations().values()) {
      if (ended(it.window(), now)) {
        tell(
            "delegation " + it.key() + " " + it.window().until(),
            it.delegate(),
            (text, said) ->
                said.append("You no longer act for ")
                    .append(text.name(Kind.PRINCIPALS, it.principal().value()))
                    .append('.'));
      }
    }
  }

  private static boolean ended(Window window, Instant now) {
    @Nullable Instant until = window.until();
    return until != null && !until.isAfter(now) && until.isAfter(now.minus(LATEST));
  }

  private void tell(String about, PrincipalKey who, BiConsumer<ChangeText, StringBuilder> says) {
    Principal whom = model.engine().catalogue().principals().get(who);
    if (whom == null) {
      return;
    }
    RequestContext context = contexts.of(new Session(who, clock.instant(), false, null));
    StringBuilder said = new StringBuilder();
    says.accept(context.text(), said);
    notices.tellOnce(
        "ended " + about,
        who.value(),
        new Notices.Notice(NoticeKind.ACCESS_ENDED, said.toString(), "/you"));
  }
}
