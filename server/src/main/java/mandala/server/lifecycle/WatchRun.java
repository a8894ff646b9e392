package mandala.server.lifecycle;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.lifecycle.WatchRule;
import mandala.core.lifecycle.WatchRule.Hit;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.mail.Letter;
import mandala.server.mail.Mails;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Has rules that watch look: warns by mail, and acts by drafts with the rights that a rule's owner
 * has then (section 11). Each draft makes a revision that can be taken back like any other.
 */
@Component
class WatchRun implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(WatchRun.class);

  private final WatchRules rules;
  private final WatchLook look;
  private final UnattendedDrafts drafts;
  private final RequestContexts contexts;
  private final LiveModel model;
  private final Mails mails;
  private final Notices notices;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final String address;

  WatchRun(
      WatchRules rules,
      WatchLook look,
      UnattendedDrafts drafts,
      RequestContexts contexts,
      LiveModel model,
      Mails mails,
      Notices notices,
      TransactionTemplate transactions,
      Clock clock,
      @Value("${mandala.url}") String address) {
    this.rules = rules;
    this.look = look;
    this.drafts = drafts;
    this.contexts = contexts;
    this.model = model;
    this.mails = mails;
    this.notices = notices;
    this.transactions = transactions;
    this.clock = clock;
    this.address = address;
  }

  @Override
  public String name() {
    return "watch-rules";
  }

  @Override
  public String description() {
    return "Warns and suspends people who are not seen, as the rules of People say.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofHours(1));
  }

  @Override
  public void run(Instant due) {
    for (WatchRules.Kept it : rules.all()) {
      try {
        look(it);
      } catch (RuntimeException e) {
        LOG.error("The watch rule {} failed; it looks again in an hour", it.number(), e);
      }
    }
  }

  /** Has one rule look. */
  void look(WatchRules.Kept it) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    Session owner = new Session(new PrincipalKey(it.owner()), now, true, null);
    if (!model.state().engine().isActive(owner.principal(), now)) {
      holdUp(it, "Its owner is not active.");
      return;
    }
    if (it.draft() != null) {
      proceed(it, it.draft(), it.people(), now);
      return; // what it finds besides is found again when this is settled
    }
    RequestContext context = contexts.of(owner);
    WatchLook.Found found = look.found(it.number(), it.order().rule(), it.madeAt(), context);
    warn(it, found.toWarn(), now);
    if (found.acting().size() > it.order().most()) {
      holdUp(
          it,
          "It would act on %,d at once, and may on %,d."
              .formatted(found.acting().size(), it.order().most()));
    } else if (!found.acting().isEmpty()) {
      act(it, found.acting(), context, now);
    } else {
      rules.heldUp(it.number(), null);
    }
  }

  private void warn(WatchRules.Kept it, List<Hit> hits, Instant now) {
    if (hits.isEmpty()) {
      return;
    }
    boolean services = it.order().watched() == WatchRule.What.SERVICES;
    transactions.executeWithoutResult(_ -> {
      for (Hit hit : hits) {
        boolean fresh = rules.warned(it.number(), hit.who().key().value(), hit.since(), now);
        if (fresh && !services) {
          mail(it.order().rule(), hit, now);
        }
      }
      if (services) {
        notices.tell(
            it.owner(),
            new Notices.Notice(
                NoticeKind.RULE_FOUND,
                "The rule “%s” found %,d services that are not used."
                    .formatted(it.order().title(), hits.size()),
                "/watch-rules/" + it.number()));
      }
      rules.did(it.number(), services ? "reported" : "warned", hits.size(), null, now);
    });
  }

  private void mail(WatchRule rule, Hit hit, Instant now) {
    Principal who = hit.who();
    Integer warnAfter = rule.warnAfter();
    if (who.email() == null || warnAfter == null) {
      return;
    }
    Instant earliest = now.plus(Duration.ofDays(Math.max(0, rule.after() - warnAfter)));
    Instant due = hit.due().isAfter(earliest) ? hit.due() : earliest;
    String day = LocalDate.ofInstant(due, ZoneOffset.UTC).toString();
    String says =
        switch (rule.what()) {
          case PERSONS ->
              "You have not signed in for a long time. Your access is suspended on "
                  + day
                  + ". Sign in before then, and it stays.";
          case GUESTS ->
              "You have not signed in for a long time. You are a guest until "
                  + day
                  + ". Sign in before then, and you stay one.";
          default ->
              "You are invited and have not chosen a password yet. The invitation ends on "
                  + day
                  + ".";
        };
    Letter letter =
        Letter.of(
            who.about().nameOr(who.key()), "Your access ends on " + day, List.of(says), address);
    mails.send(who.key().value(), who.email(), letter.subject(), letter.body());
  }

  private void act(WatchRules.Kept it, List<Hit> hits, RequestContext context, Instant now) {
    List<Change> changes =
        it.order().rule().changes(context.state().engine().catalogue(), hits, now);
    UnattendedDrafts.Plan plan =
        new UnattendedDrafts.Plan(
            it.owner(),
            "Rule “" + it.order().title() + "”",
            "Not seen for " + it.order().after() + " days or more",
            "",
            changes);
    UnattendedDrafts.Answer hindrance = drafts.hindrance(plan);
    if (hindrance != null) {
      holdUp(it, hindrance.why());
      return;
    }
    String draft =
        transactions.execute(_ -> {
          String begun = drafts.begin(plan, context.state().revision());
          rules.draft(it.number(), begun, hits.size());
          return begun;
        });
    proceed(it, String.valueOf(draft), hits.size(), now);
  }

  private void proceed(WatchRules.Kept it, String draft, int people, Instant now) {
    UnattendedDrafts.Answer answer = drafts.proceed(draft, "by a rule");
    switch (answer) {
      case UnattendedDrafts.Answer.Applied(long revision) ->
          transactions.executeWithoutResult(_ -> {
            rules.draft(it.number(), null, 0);
            rules.heldUp(it.number(), null);
            rules.did(it.number(), "acted", people, revision, now);
          });
      case UnattendedDrafts.Answer.Waits _, UnattendedDrafts.Answer.HeldUp _ ->
          holdUp(it, answer.why());
      case UnattendedDrafts.Answer.Unfit _, UnattendedDrafts.Answer.Declined _ -> {
        drafts.discard(draft);
        rules.draft(it.number(), null, 0);
        holdUp(it, answer.why());
      }
      case UnattendedDrafts.Answer.Discarded _ -> rules.draft(it.number(), null, 0);
    }
  }

  private void holdUp(WatchRules.Kept it, String why) {
    if (rules.heldUp(it.number(), why)) {
      notices.tell(
          it.owner(),
          new Notices.Notice(
              NoticeKind.RULE_FOUND,
              "The rule “" + it.order().title() + "” waits. " + why,
              "/watch-rules/" + it.number()));
    }
  }
}
