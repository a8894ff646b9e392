package mandala.server.notice;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.Visibility;
import mandala.server.mail.Letter;
import mandala.server.notice.NoticeKind.Delivery;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
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
  private final RequestContexts contexts;
  private final CurrentPrincipal viewer;
  private final Trail trail;
  private final AuditContext auditContext;

  NoticeController(
      Notices notices,
      RequestContexts contexts,
      CurrentPrincipal viewer,
      Trail trail,
      AuditContext auditContext) {
    this.notices = notices;
    this.contexts = contexts;
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /**
   * One's own notices, the newest first.
   *
   * @param unread how many are not read, of all
   */
  record NoticeList(long unread, List<Notices.NoticeView> notices) {}

  /** One's own notices: those of whoever is signed in, in an impersonated view too. */
  @GetMapping
  NoticeList list(@RequestParam(defaultValue = "50") int limit) {
    String person = viewer.signedIn().principal().value();
    return new NoticeList(notices.unread(person), notices.of(person, Math.clamp(limit, 1, MOST)));
  }

  /** Which notices were read: all up to this one, or this one only. */
  record Read(long id, boolean andOlder) {}

  /** Marks notices as read. */
  @PostMapping("/read")
  NoticeList read(@Valid @RequestBody Read read) {
    notices.read(viewer.signedIn().principal().value(), read.id(), read.andOlder());
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

  /** How mail about each kind of notice reads, by an example to oneself. */
  record LetterList(List<LetterView> letters) {}

  /** An example of a mail. */
  record LetterView(String kind, String subject, String body) {}

  /** How mail about each kind of notice reads. */
  @GetMapping("/letters")
  LetterList letters() {
    if (!contexts.context().readPolicy().managesSettings()) {
      throw Problem.forbidden(
          "You need “Manage settings” on an account to preview its mail. Ask its administrator.");
    }
    Principal self = self();
    return new LetterList(
        Stream.of(NoticeKind.values())
            .map(kind -> {
              Letter letter =
                  notices.letter(self, new Notices.Notice(kind, kind.example(), "/you/notices"));
              return new LetterView(kind.word(), letter.subject(), letter.body());
            })
            .toList());
  }

  /** How one's own notices come. */
  @GetMapping("/choices")
  NoticeChoices choices() {
    Principal self = self();
    Notices.Deliveries deliveries = notices.deliveries(self);
    List<NoticeChoice> all =
        Stream.of(NoticeKind.values())
            .map(kind -> {
              Delivery demanded = deliveries.demanded().get(kind);
              return new NoticeChoice(
                  kind.word(),
                  kind.title(),
                  deliveries.of(kind).word(),
                  demanded == null ? null : demanded.word());
            })
            .toList();
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
    Delivery demanded = notices.deliveries(self).demanded().get(of);
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
    AccountKey key = readable(account, context);
    Map<NoticeKind, Delivery> demanded = notices.demands(account);
    List<Demand> all =
        Stream.of(NoticeKind.values())
            .map(it ->
                new Demand(it.word(), it.title(), demanded.getOrDefault(it, Delivery.HERE).word()))
            .toList();
    return new Demands(account, manages(key, context), all);
  }

  private static AccountKey readable(String account, RequestContext context) {
    AccountKey key =
        Visibility.account(account, context.state().engine().catalogue(), context.naming());
    if (!context.readPolicy().mayRead(key)) {
      throw Problem.notFound("There is no account '" + account + "'. Choose one from the list.");
    }
    return key;
  }

  private static boolean manages(AccountKey account, RequestContext context) {
    return context.readPolicy().may(Supplied.SETTINGS_MANAGE, ResourceKey.of(account));
  }

  /** Sets what an account demands. */
  @PutMapping("/demands/{account}/{kind}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void demand(
      @PathVariable String account, @PathVariable String kind, @Valid @RequestBody Wanted wanted) {
    RequestContext context = contexts.context();
    AccountKey key = readable(account, context);
    NoticeKind of = kind(kind);
    Delivery delivery = delivery(wanted);
    if (!manages(key, context)) {
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
