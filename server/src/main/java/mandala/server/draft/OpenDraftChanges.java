package mandala.server.draft;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;

/** Puts guided acts, which change many things at once, into the open draft of whoever calls. */
@Service
public class OpenDraftChanges {

  private final Drafts drafts;

  OpenDraftChanges(Drafts drafts) {
    this.drafts = drafts;
  }

  /**
   * Joins the changes of an act with what the open draft has: all, or none.
   *
   * @param act what changes, of the model with the open draft laid over it
   * @return the id of the draft
   * @throws Problem if it names what the caller may not read, or does not fit
   */
  public String put(RequestContext context, Function<Catalogue, List<Change>> act) {
    Catalogue live = context.state().engine().catalogue();
    return drafts
        .changeOpen(
            context.readPolicy().viewer().value(),
            context.state().revision(),
            draft -> {
              Rebase rebase = Rebase.of(draft, live);
              requireNoClash(rebase);
              Draft.Builder builder = rebase.draft().builder();
              try {
                act.apply(rebase.draft().appliedUnchecked(live)).forEach(builder::add);
              } catch (IllegalArgumentException e) {
                throw Problem.conflict(
                    "This does not fit your draft",
                    e.getMessage() + ". Apply or discard the draft, then try again.");
              }
              Draft after = builder.build();
              requireReadable(after, rebase.draft(), context);
              return after;
            })
        .id();
  }

  static void requireNoClash(Rebase rebase) {
    if (!rebase.clashes().isEmpty()) {
      throw Problem.conflict(
          "Somebody else changed what your draft changes",
          "Open the draft and choose for each; then go on.");
    }
  }

  /** Nobody changes what they may not even read, and nobody finds out by trying what there is. */
  static void requireReadable(Draft after, Draft before, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    Set<Change> known = new HashSet<>(before.changes());
    for (Change change : after.changes()) {
      Thing thing = change.things().getFirst();
      if (!(change instanceof Change.Added)
          && !known.contains(change)
          && !context.readPolicy().mayRead(thing, live)) {
        throw EditReader.gone(Kind.of(thing));
      }
    }
  }
}
