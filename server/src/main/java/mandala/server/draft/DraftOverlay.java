package mandala.server.draft;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;

/** Lays drafts over the model, for questions and screens; the last few are kept. */
@Component
class DraftOverlay implements RequestContexts.Overlay {

  private static final int KEPT = 8;

  private final Drafts drafts;
  private final Cache<String, LiveModel.State> kept =
      Caffeine.newBuilder().maximumSize(KEPT).build();

  DraftOverlay(Drafts drafts) {
    this.drafts = drafts;
  }

  @Override
  public LiveModel.State with(String draft, LiveModel.State now, ReadPolicy readPolicy) {
    String viewer = readPolicy.viewer().value();
    DraftRow row = ("open".equals(draft) ? drafts.open(viewer) : drafts.find(draft)).orElse(null);
    if (row == null && "open".equals(draft)) {
      return now;
    }
    if (row == null
        || !(row.owner().equals(viewer) || row.isReadBy(readPolicy, now.engine().catalogue()))) {
      throw Drafts.noSuchDraft();
    }
    String what = now.revision() + " " + row.content() + " " + "open".equals(draft);
    return kept.get(what, _ -> laid(row, now, "open".equals(draft)));
  }

  /** A faulty open draft is left out: pages go on, so that it can be mended from them. */
  private static LiveModel.State laid(DraftRow row, LiveModel.State now, boolean open) {
    var draft = Rebase.of(row.draft(), now.engine().catalogue()).draft();
    if (draft.isEmpty()) {
      return now;
    }
    try {
      Engine after = now.engine().after(draft.inOrder());
      return LiveModel.State.of(now.revision(), now.demo(), after);
    } catch (IllegalArgumentException e) {
      if (open) {
        return now;
      }
      throw Problem.conflict(
          "The draft leaves a faulty model", "Open the draft and fix it: " + e.getMessage() + ".");
    }
  }
}
