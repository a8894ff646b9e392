package mandala.server.notice;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.Visibility;
import mandala.server.notice.NoticeKind.Delivery;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** One's own notices, how they come, and what an account demands. */
@RestController
@RequestMapping("/api/notices")
class NoticeController {

  private static final int MOST = 200;

  private final Notices notices;
  private final JdbcTemplate database;
  private final RequestContexts contexts;
  private final CurrentPrincipal viewer;
  private final Trail trail;
  private final AuditContext auditContext;
  private final Clock clock;

  NoticeController(
      Notices notices,
      JdbcTemplate database,
      RequestContexts contexts,
      CurrentPrincipal viewer,
      Trail trail,
      AuditContext auditContext,
      Clock clock) {
    this.notices = notices;
    this.database = database;
    this.contexts = contexts;
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
    this.clock = clock;
  }

  /** A notice; {@code link} is the page that it leads to. */
  record NoticeView(
      long id, String kind, String said, @Nullable String link, Instant at, boolean read) {}

  /**
   * One's own notices, the newest first.
   *
   * @param unread how many are not read, of all
   */
  record NoticeList(long unread, List<NoticeView> notices) {}

  /** One's own notices: those of whoever is signed in, in an impersonated view too. */
  @GetMapping
  NoticeList list(@RequestParam(defaultValue = "50") int limit) {
    String person = viewer.signedIn().principal().value();
    Long unread =
        database.queryForObject(
            "select count(*) from notice where person = ? and read_at is null", Long.class, person);
    return new NoticeList(
        unread == null ? 0 : unread,
        database.query(
            "select id, kind, said, link, at, read_at is not null from notice where person = ?"
                + " order by id desc limit ?",
            (row, _) ->
                new NoticeView(
                    row.getLong(1),
                    row.getString(2),
                    row.getString(3),
                    row.getString(4),
                    row.getTimestamp(5).toInstant(),
                    row.getBoolean(6)),
            person,
            Math.clamp(limit, 1, MOST)));
  }

  /** Which notices were read: all up to this one, or this one only. */
  record Read(long id, boolean andOlder) {}

  /** Marks notices as read. */
  @PostMapping("/read")
  NoticeList read(@Valid @RequestBody Read read) {
    database.update(
        "update notice set read_at = ? where person = ? and read_at is null and "
            + (read.andOlder() ? "id <= ?" : "id = ?"),
        clock.instant().atOffset(ZoneOffset.UTC),
        viewer.signedIn().principal().value(),
        read.id());
    return list(50);
  }

  /**
   * How notices of a kind come.
   *
   * @param delivery in the application only, by mail at once, or in one mail a day
   * @param demanded what one's account demands at least, or null
   */
  record NoticeChoice(
      String kind,
      String title,
      @Schema(allowableValues = {"here", "digest", "mail"}) String delivery,
      @Nullable String demanded) {}

  /**
   * How one's notices come.
   *
   * @param address where mail goes; null where one has no address, so that none goes
   */
  record NoticeChoices(@Nullable String address, List<NoticeChoice> choices) {}

  /** How one's own notices come. */
  @GetMapping("/choices")
  NoticeChoices choices() {
    Principal self = self();
    List<NoticeChoice> all = new ArrayList<>();
    for (NoticeKind kind : NoticeKind.values()) {
      Delivery demanded = notices.demandOn(self, kind);
      all.add(
          new NoticeChoice(
              kind.word(),
              kind.title(),
              notices.deliveryFor(self, kind).word(),
              demanded == null ? null : demanded.word()));
    }
    return new NoticeChoices(self.email(), all);
  }

  private Principal self() {
    Principal self = contexts.context().readPolicy().known(viewer.signedIn().principal());
    if (self == null) {
      throw Problem.signedOut("Sign in again.");
    }
    return self;
  }

  /** How a kind is to come. */
  record Wanted(@NotBlank String delivery) {}

  private static NoticeKind kind(String word) {
    return NoticeKind.of(word)
        .orElseThrow(() ->
            Problem.notFound(
                "There is no kind of notice '" + word + "'. Choose one from the list."));
  }

  private static Delivery delivery(Wanted wanted) {
    return Delivery.of(wanted.delivery())
        .orElseThrow(() ->
            Problem.badRequest(
                "Notices can't come by '" + wanted.delivery() + "'",
                "Write here, digest or mail."));
  }

  /** Chooses how notices of a kind come. */
  @PutMapping("/choices/{kind}")
  NoticeChoices choose(@PathVariable String kind, @Valid @RequestBody Wanted wanted) {
    NoticeKind of = kind(kind);
    Delivery delivery = delivery(wanted);
    Principal self = self();
    Delivery demanded = notices.demandOn(self, of);
    if (demanded != null && delivery.compareTo(demanded) < 0) {
      throw Problem.badRequest(
          "Your account demands more",
          "It asks for '" + demanded.word() + "' at least. Choose that, or ask its administrator.");
    }
    notices.choose(self.key().value(), of, delivery);
    return choices();
  }

  /** What an account demands of a kind; {@code here} where it demands nothing. */
  record Demand(String kind, String title, String delivery) {}

  /** What an account demands. */
  record Demands(String account, boolean mine, List<Demand> demands) {}

  /** What an account demands of the notices of its people. */
  @GetMapping("/demands/{account}")
  Demands demands(@PathVariable String account) {
    RequestContext context = contexts.context();
    AccountKey key =
        Visibility.account(account, context.state().engine().catalogue(), context.naming());
    if (!context.readPolicy().mayRead(key)) {
      throw Problem.notFound("There is no account '" + account + "'. Choose one from the list.");
    }
    List<Demand> all = new ArrayList<>();
    for (NoticeKind kind : NoticeKind.values()) {
      Delivery demanded = notices.demands(account).getOrDefault(kind, Delivery.HERE);
      all.add(new Demand(kind.word(), kind.title(), demanded.word()));
    }
    return new Demands(account, manages(key, context), all);
  }

  private static boolean manages(AccountKey account, RequestContext context) {
    return context.readPolicy().may(Supplied.SETTINGS_MANAGE, ResourceKey.of(account));
  }

  /** Sets what an account demands. */
  @PutMapping("/demands/{account}/{kind}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void demand(
      @PathVariable String account, @PathVariable String kind, @Valid @RequestBody Wanted wanted) {
    demands(account); // there is such an account to the viewer's eyes
    NoticeKind of = kind(kind);
    Delivery delivery = delivery(wanted);
    RequestContext context = contexts.context();
    if (!manages(new AccountKey(account), context)) {
      throw Problem.forbidden(
          "You need “Manage settings” on this account, with your second factor. Ask its"
              + " administrator.");
    }
    notices.demand(account, of, delivery);
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.CHANGED,
            List.of(account),
            "Notices “" + of.title() + "” come at least as " + delivery.word()));
  }
}
