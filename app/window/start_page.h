// What to begin with: the demo, a new swap, a file, recent ones, work that was not finished.
#pragma once

#include <QStringList>
#include <QWidget>

class QPixmap;
class QVBoxLayout;

namespace gabarit::app {

struct Unfinished;

class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);

    /// Files opened or saved lately, newest first.
    static QStringList recent();
    /// Puts a file in front of them, with a picture and how it stands when they are known.
    static void remember(const QString& path, const QPixmap& picture, const QString& stands = {});
    void refresh();

signals:
    void demoWanted();
    void otherDemoWanted(int which);
    void newWanted();
    void openWanted();
    void donorWanted();
    void fileWanted(const QString& path);
    void unfinishedWanted(const gabarit::app::Unfinished& work);

protected:
    void showEvent(QShowEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void fillUnfinished();
    void fillRecent();
    QVBoxLayout* unfinished_;
    QVBoxLayout* recent_;
};

} // namespace gabarit::app
