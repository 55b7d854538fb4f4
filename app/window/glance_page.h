// Every check on one page: by group, the worst first, each with its margin drawn and the sum behind its figure.
#pragma once

#include "study/study.h"

#include <QAbstractButton>

class QBoxLayout;
class QLabel;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace gabarit::app {

class Session;
class WhyPicture;

/// One check: mark, number, what it is of, margin, value, what is wanted.
class GlanceRow : public QAbstractButton {
    Q_OBJECT
public:
    explicit GlanceRow(QWidget* parent = nullptr);
    void show(const study::Finding& finding);
    const study::Finding& finding() const { return finding_; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override { return {480, heightForWidth(width())}; }
    QSize minimumSizeHint() const override { return {280, heightForWidth(width())}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    struct Places;
    Places places(int width) const;
    QString words() const;
    study::Finding finding_;
};

/// What stands below the row that is open: the sum, what follows from it, and the ways on.
class WhyPanel : public QWidget {
    Q_OBJECT
public:
    explicit WhyPanel(QWidget* parent = nullptr);
    void show(const study::Finding& finding, const std::optional<discipline::Why>& why);
    const WhyPicture* picture() const { return picture_; }
    QString words() const;
    QPushButton* showButton() const { return show_; }
    QPushButton* tryButton() const { return try_; }

signals:
    void leadWanted();
    void tryWanted();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    WhyPicture* picture_;
    QLabel* so_;
    QLabel* most_;
    QLabel* about_;
    QLabel* caution_;
    QPushButton* show_;
    QPushButton* try_;
};

class GlancePage : public QWidget {
    Q_OBJECT
public:
    explicit GlancePage(Session& session, QWidget* parent = nullptr);
    /// The rows shown, in order.
    std::vector<const GlanceRow*> rows() const;
    /// Null while no row is open.
    const WhyPanel* why() const;
    /// Opens the row of a finding; nothing happens when it has none.
    void openRow(const std::string& finding);
    /// Brings a group's rows into sight.
    void showGroup(discipline::Group group);
    /// Only what is open, or what is good too.
    void showAll(bool all);

signals:
    /// To the stage that tells of it, at its place.
    void leadTo(const gabarit::study::Finding& finding);

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    struct Section {
        discipline::Group group = discipline::Group::Gaps;
        QWidget* box = nullptr;
        QLabel* head = nullptr;
        QLabel* is = nullptr; ///< above the values
        QLabel* wanted = nullptr;
        QVBoxLayout* column = nullptr;
        QPushButton* more = nullptr; ///< below the tightest that are go
        bool unfolded = false;
        std::vector<GlanceRow*> rows;
        int shown = 0;
    };
    void refresh();
    void fill(Section& section, const study::GroupState& state, const study::Reports& reports);
    void placeWhy();
    void arrange();
    void tryIt();
    Section* sectionOf(discipline::Group group);

    Session& session_;
    QLabel* title_;
    QPushButton* open_;
    QPushButton* all_;
    QScrollArea* area_;
    QBoxLayout* columns_;
    QVBoxLayout* left_;
    QVBoxLayout* right_;
    QLabel* empty_;
    WhyPanel* why_;
    std::vector<Section> sections_;
    std::string opened_; ///< the finding whose row is open
    bool arranged_wide_ = false;
};

} // namespace gabarit::app
