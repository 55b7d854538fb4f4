// What the stages of the disciplines share: the list of what there is, the drawing, words, advice and figures below it,
// the form beside it. A stage says what is in them, and brings its picture.
#pragma once

#include "forms/entry_form.h"
#include "kit/check_sheet.h"
#include "kit/stage.h"
#include "make/search.h"

class QLabel;
class QLineEdit;
class QListWidget;
class QMenu;
class QProgressBar;
class QPushButton;
class QScrollArea;
class QTableWidget;
class QVBoxLayout;

namespace gabarit::app {

class Job;
class PageColumns;

/// Its things go by keys, "kind:ID", or "kind" for the only one there can be. Buttons by their names: "new" with an
/// action "new_KIND" for each kind, "delete", and the advice by the names it is given.
class DisciplineStage : public Stage {
    Q_OBJECT
public:
    QListWidget* list() const { return list_; }
    QTableWidget* checks() const { return checks_; }
    EntryForm* form() const { return form_; }
    /// Of what is chosen; empty for nothing.
    QString key() const;
    /// What stands in words below the drawing.
    QString words() const;
    void choose(const QString& key);
    /// Chooses the thing whose id the finding begins with ("mounts:left/travel" leads to "mount:left").
    bool leadTo(const QString& finding) override;
    /// While there is nothing in it: the first that "New" makes.
    NextStep nextStep(const study::Reports& reports) override;
    void turnTo(const QString& what) override { choose(what); }
    void setNarrow(bool narrow) override;
    /// Something is looked for beside the window.
    bool searching() const;

protected:
    struct Look {
        QString list_name; ///< "Pockets, tubes and plates"
        QString adding;    ///< the step of something new, for undo: "add to the relief"
        int list_px, form_px, below_px;
        std::vector<std::string> of; ///< the disciplines whose deeds are offered
    };
    DisciplineStage(Session& session, const Look& look, QWidget* parent);
    /// The drawing's place; once, in the constructor. `above` stands over it.
    void setDrawing(QWidget* drawing, QLayout* above = nullptr);
    /// First of what stands below the drawing.
    void addBelow(QWidget* widget);
    /// An entry of "New" that calls add().
    void addKind(const char* kind, const QString& words);
    QMenu* newMenu() const { return menu_; }
    /// Where what "New" offers depends on what there is: puts it into newMenu(), each entry with a name, before it
    /// shows.
    virtual void fillMenu() {}
    /// Below "New".
    QPushButton* addButton(const char* name, const QString& text, const std::function<void()>& act);

    /// What there is. `reports` null: only keys and names are wanted.
    virtual std::vector<StageItem> items(const model::Project& project, const study::Reports* reports) const = 0;
    virtual std::vector<Field> fieldsOf(const QString& key) = 0;
    /// The drawing, and what stands beside it, of what is chosen.
    virtual void draw(const QString& key) = 0;
    /// Words, caution and figures of what is chosen: say(), mind(), put(). Not asked while there are no reports.
    virtual void tell(const QString& key, const study::Reports& reports) = 0;
    /// What would help with what is chosen besides the deeds: help(), remark(), askWho().
    virtual void advise(const QString& key) { Q_UNUSED(key) }
    /// Puts another of this kind into the project; its key, or an empty one with a notice when it cannot.
    virtual QString add(const QString& kind, model::Project& project) = 0;
    virtual Result<model::Project> without(const QString& key, model::Project project) const = 0;
    virtual bool deletable(const QString& key) const { return !key.isEmpty(); }

    void refresh();
    /// The advice alone, anew.
    void refreshAdvice();
    /// Makes another of this kind, as one step, and begins to type its name.
    void addNew(const QString& kind);
    /// Stands on this key when the list is filled next.
    void want(const QString& key) { wanted_ = key; }
    void say(const QStringList& sentences);
    void mind(const QString& caution);
    void put(const model::Check& check, const QString& known = {});
    QPushButton* help(const QString& name, const QString& text, const std::function<void()>& act,
                      const QString& tip = {});
    void remark(const QString& text);
    /// Looks beside the window for what a search (core/make/search.h) is about: its one answer is taken, or its answers
    /// are offered as buttons "answer:N" until something changes.
    void lookFor(const char* search, std::vector<std::string> about);
    /// Shows the line for who signs.
    void askWho();
    /// As typed.
    std::string who() const;
    /// Makes it the project, as one step; an error becomes a notice.
    void take(Result<model::Project> changed, const QString& step);
    /// With the project's own limits.
    model::RuleBook book() const;
    /// The rule book's caution about a thing ("relief/cut").
    static QString caution(const char* thing);
    static QString today();

    Session& session_;
    Job* job_; ///< what is looked for beside the window; the bar shows how far it has come
    bool filling_ = false;

private:
    void showEvent(QShowEvent* event) override;
    void refreshBody();
    void offerSearches(const QString& key);
    void offerFound();
    void offerDeeds(const QString& key);
    void takeFound(const make::Search& search, Result<discipline::Found> found);
    void remove();

    QString adding_;
    std::vector<std::string> of_;
    QListWidget* list_;
    QTableWidget* checks_;
    QLabel* words_;
    QLabel* caution_;
    QProgressBar* progress_;
    QLineEdit* who_;
    PageColumns* columns_;
    QVBoxLayout* left_;
    QVBoxLayout* middle_;
    QVBoxLayout* below_;
    QScrollArea* scrolled_;
    QVBoxLayout* help_;
    EntryForm* form_;
    QMenu* menu_;
    QPushButton* delete_;
    QString wanted_;
    discipline::Found found_;
    std::shared_ptr<const model::Project> found_for_; ///< null: nothing was found
    QString found_at_;
};

/// The part of a key after its kind.
std::string idOf(const QString& key);
/// Whether it is of this kind ("mount:left" of "mount").
bool isOf(const QString& key, const char* kind);
/// Takes the item of this id out of a list of things with ids.
template <class List>
void dropId(List& list, const std::string& id) {
    list.erase(std::remove_if(list.begin(), list.end(), [&](const auto& item) { return item.id == id; }), list.end());
}
template <class List>
void idsInto(std::vector<std::string>& out, const List& list) {
    for (const auto& item : list) out.push_back(item.id);
}
/// The worst of those that speak of it, go when none does.
template <class Speaks>
model::Verdict worstAbout(const std::vector<model::Check>& checks, Speaks speaks) {
    model::Verdict out = model::Verdict::Go;
    for (const model::Check& check : checks)
        if (speaks(check)) out = model::worse(out, check.verdict);
    return out;
}

} // namespace gabarit::app
