package mandala.server.lifecycle;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.lifecycle.PersonnelList.What;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.lifecycle.PersonnelSources.Source;
import mandala.server.lifecycle.PersonnelSources.State;
import mandala.server.lifecycle.PersonnelSources.Taken;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes files of the personnel office from the server's folder, each once, with the rights that the
 * owner of the list has then (section 11): proposes a draft or applies it, and stops at what would
 * remove too many.
 */
@Component
class PersonnelRun implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(PersonnelRun.class);

  /** The most bytes of a file. */
  static final long LARGEST = 50_000_000;

  private final PersonnelSources sources;
  private final UnattendedDrafts drafts;
  private final RequestContexts contexts;
  private final Notices notices;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final Path folder;

  PersonnelRun(
      PersonnelSources sources,
      UnattendedDrafts drafts,
      RequestContexts contexts,
      Notices notices,
      TransactionTemplate transactions,
      Clock clock,
      @Value("${mandala.personnel}") Path folder) {
    this.sources = sources;
    this.drafts = drafts;
    this.contexts = contexts;
    this.notices = notices;
    this.transactions = transactions;
    this.clock = clock;
    this.folder = folder;
  }

  @Override
  public String name() {
    return "personnel-lists";
  }

  @Override
  public String description() {
    return "Takes new lists of the personnel office from the server's folder.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofMinutes(10));
  }

  @Override
  public void run(Instant due) {
    for (Source it : sources.all()) {
      try {
        look(it);
      } catch (RuntimeException e) {
        LOG.error("The personnel list {} failed; it is tried again", it.number(), e);
      }
    }
  }

  /** Goes on with what was taken last, and takes the file where it is another. */
  void look(Source source) {
    Taken last = sources.taken(source.number(), 1).stream().findFirst().orElse(null);
    if (last != null) {
      last = settled(source, last);
    }
    String file = source.order().file();
    if (file == null) {
      return;
    }
    if (last != null && last.state() == State.PROPOSED) {
      return; // whoever has the draft may have worked on it
    }
    String content;
    try {
      content = content(source.order().account(), file);
    } catch (IOException e) {
      takeUnreadable(source, last, "The file could not be read: " + e.getMessage() + ".");
      return;
    }
    if (content != null) {
      String hash = DigestUtils.sha256Hex(content);
      Taken before = last;
      if (before == null || !before.hash().equals(hash)) {
        take(source, content, hash, before);
      }
    }
  }

  private @Nullable String content(String account, String file) throws IOException {
    Path own = folder.resolve(account);
    Path path = own.resolve(file);
    if (!folder.normalize().equals(own.normalize().getParent())) {
      throw new IOException("the key of the account is no name of a folder");
    }
    if (!Files.isRegularFile(path)) {
      return null;
    }
    if (!path.toRealPath().startsWith(own.toRealPath())) {
      throw new IOException("it leads out of the account's folder");
    }
    if (Files.size(path) > LARGEST) {
      throw new IOException("it is larger than 50 MB");
    }
    try {
      String text = Files.readString(path);
      return text.startsWith("\uFEFF") ? text.substring(1) : text;
    } catch (CharacterCodingException _) {
      return Files.readString(path, StandardCharsets.ISO_8859_1);
    }
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS);
  }

  private void takeUnreadable(Source source, @Nullable Taken last, String why) {
    String hash = DigestUtils.sha256Hex(why);
    if (last == null || !last.hash().equals(hash)) {
      sources.note(source.number(), now(), null, hash, null, State.UNREADABLE, why, null, null);
      tell(source, why);
    }
  }

  private void take(Source source, String content, String hash, @Nullable Taken before) {
    RequestContext context =
        contexts.of(new Session(new PrincipalKey(source.owner()), now(), true, null));
    if (!context.state().engine().isActive(new PrincipalKey(source.owner()), now())) {
      return; // its page says so; whoever saves the list is its owner
    }
    PersonnelReader.Read read;
    try {
      read = PersonnelReader.read(content, source.order(), context);
    } catch (Problem e) {
      sources.note(
          source.number(), now(), null, hash, null, State.UNREADABLE, sentence(e), null, null);
      tell(source, sentence(e));
      return;
    }
    drop(before);
    if (read.removesMoreThan(source.order().most())) {
      String why = tooMany(source.order(), read);
      sources.note(source.number(), now(), null, hash, read, State.STOPPED, why, content, null);
      tell(source, why);
      return;
    }
    List<Change> changes =
        PersonnelList.changes(context.state().engine().catalogue(), read.steps());
    if (changes.isEmpty()) {
      sources.note(source.number(), now(), null, hash, read, State.NOTHING, null, null, null);
      return;
    }
    begin(source, hash, read, changes, context.state().revision());
  }

  /** A newer list takes the place of one that waits. */
  void drop(@Nullable Taken before) {
    if (before == null || !before.state().isOpen()) {
      return;
    }
    if (before.draft() != null) {
      drafts.discard(before.draft());
    }
    sources.became(before.number(), State.DISMISSED, null, null);
  }

  private void begin(
      Source source, String hash, PersonnelReader.Read read, List<Change> changes, long revision) {
    boolean applies = source.order().applies();
    Taken taken;
    try {
      taken =
          transactions.execute(_ -> {
            String draft = drafts.begin(plan(source, changes), revision);
            long number =
                sources.note(
                    source.number(),
                    now(),
                    null,
                    hash,
                    read,
                    applies ? State.WAITS : State.PROPOSED,
                    null,
                    null,
                    draft);
            return sources.one(source.number(), number).orElseThrow();
          });
    } catch (Problem e) {
      sources.note(
          source.number(), now(), null, hash, read, State.UNREADABLE, sentence(e), null, null);
      tell(source, sentence(e));
      return;
    }
    Taken it = Objects.requireNonNull(taken);
    if (applies) {
      settled(source, it);
    } else {
      tell(source, "A draft of yours has " + inWords(it) + ".");
    }
  }

  private static UnattendedDrafts.Plan plan(Source source, List<Change> changes) {
    return new UnattendedDrafts.Plan(
        source.owner(),
        draftName(source.order()),
        "From the personnel list “" + source.order().title() + "”",
        "",
        changes);
  }

  /** {@return what a draft of a list is called} */
  static String draftName(PersonnelOrder order) {
    return "Personnel list “" + order.title() + "”";
  }

  /** {@return why a list is stopped} */
  static String tooMany(PersonnelOrder order, PersonnelReader.Read read) {
    return "It would remove %,d of %,d people, more than %d %%."
        .formatted(read.count(What.LEAVES), read.holds(), order.most());
  }

  private static String inWords(Taken it) {
    return "%,d who join or come back, %,d changed, %,d who leave"
        .formatted(it.joins() + it.returns(), it.changes(), it.leaves());
  }

  private static String sentence(Problem e) {
    return e.title() + ". " + Objects.requireNonNullElse(e.getMessage(), "");
  }

  /** {@return a list after what became of a proposed draft was noted} */
  Taken noted(Taken it) {
    String draft = it.draft();
    if (draft == null || it.state() != State.PROPOSED) {
      return it;
    }
    Long revision = drafts.revisionOf(draft);
    if (revision != null) {
      sources.became(it.number(), State.APPLIED, null, revision);
    } else if (!drafts.isAlive(draft)) {
      sources.became(it.number(), State.DISCARDED, null, null);
    }
    return sources.one(it.source(), it.number()).orElse(it);
  }

  private Taken settled(Source source, Taken it) {
    String draft = it.draft();
    if (draft != null && it.state() == State.WAITS) {
      proceed(source, it, draft);
      return sources.one(source.number(), it.number()).orElse(it);
    }
    return noted(it);
  }

  private void proceed(Source source, Taken it, String draft) {
    UnattendedDrafts.Answer answer = drafts.proceed(draft, "from a personnel list");
    switch (answer) {
      case UnattendedDrafts.Answer.Applied(long revision) ->
          sources.became(it.number(), State.APPLIED, null, revision);
      case UnattendedDrafts.Answer.Waits _, UnattendedDrafts.Answer.HeldUp _ -> {
        if (sources.became(it.number(), State.WAITS, answer.why(), null)) {
          tell(source, answer.why());
        }
      }
      case UnattendedDrafts.Answer.Unfit _, UnattendedDrafts.Answer.Declined _ -> {
        drafts.discard(draft);
        sources.became(it.number(), State.DECLINED, answer.why(), null);
        tell(source, answer.why());
      }
      case UnattendedDrafts.Answer.Discarded _ ->
          sources.became(it.number(), State.DISCARDED, null, null);
    }
  }

  private void tell(Source source, String what) {
    notices.tell(
        source.owner(),
        new Notices.Notice(
            NoticeKind.PERSONNEL_LIST,
            "The personnel list “" + source.order().title() + "”: " + what,
            "/personnel/" + source.number()));
  }
}
