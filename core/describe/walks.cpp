#include "describe/walks.h"

#include <algorithm>

namespace gabarit::describe {

void References::onText(const Member& m, std::string& value) {
    if (m.target != Target::None && !value.empty()) each_({m, value});
}

void References::onTexts(const Member& m, std::vector<std::string>& value) {
    if (m.target == Target::None) return;
    for (std::string& text : value) each_({m, text});
    value.erase(std::remove(value.begin(), value.end(), std::string()), value.end());
}

void Forgetter::onText(const Member& m, std::string& value) {
    if (m.target == Target::None || m.gone == Gone::Stays || value.empty() || !gone_(m, value)) return;
    if (m.gone == Gone::Entry)
        entry_goes_ = true;
    else
        value.clear();
}

void Forgetter::onTexts(const Member& m, std::vector<std::string>& value) {
    if (m.target == Target::None || m.gone == Gone::Stays) return;
    value.erase(std::remove_if(value.begin(), value.end(), [&](const std::string& text) { return gone_(m, text); }),
                value.end());
}

void Forgetter::onObject(const Member&, Object& value) {
    if (!value.here()) return;
    const bool outside = std::exchange(entry_goes_, false);
    value.describe(*this);
    entry_goes_ = entry_goes_ || outside; // an object's own member speaks for the entry it belongs to
}

void Forgetter::onList(const Member&, List& value) {
    const bool outside = entry_goes_;
    for (std::size_t i = value.size(); i-- > 0;) {
        entry_goes_ = false;
        value.describe(*this, i);
        if (entry_goes_) value.drop(i);
    }
    entry_goes_ = outside;
}

void Shifter::onNumber(const Member& m, double& value) {
    if (m.height && moves(m)) value += by_mm_.z();
}
void Shifter::onPoint(const Member& m, Eigen::Vector3d& value) {
    if (m.vector == Vector::Place && moves(m)) value += by_mm_;
}
void Shifter::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) {
    if (m.vector == Vector::Place && moves(m))
        for (Eigen::Vector3d& v : value) v += by_mm_;
}

void Mirrorer::onNumber(const Member& m, double& value) {
    if (m.sided) value = -value;
}
void Mirrorer::onPoint(const Member& m, Eigen::Vector3d& value) {
    if (m.vector == Vector::Place || m.vector == Vector::Shift || m.vector == Vector::Direction) value.y() = -value.y();
}
void Mirrorer::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) {
    for (Eigen::Vector3d& v : value) onPoint(m, v);
}

void Marker::eat(const void* bytes, std::size_t size) {
    constexpr std::uint64_t prime = 1099511628211ull;
    const auto* at = static_cast<const unsigned char*>(bytes);
    for (std::size_t i = 0; i < size; ++i) hash_ = (hash_ ^ at[i]) * prime;
}
void Marker::eat(const std::string& text) {
    eat(text.size());
    eat(text.data(), text.size());
}
void Marker::eat(double number) {
    if (number == 0) number = 0; // −0 is 0
    eat(&number, sizeof number);
}
void Marker::onText(const Member&, std::string& value) { eat(value); }
void Marker::onNumber(const Member&, double& value) { eat(value); }
void Marker::onOptional(const Member&, std::optional<double>& value) {
    eat(std::size_t(value.has_value()));
    if (value) eat(*value);
}
void Marker::onFlag(const Member&, bool& value) { eat(std::size_t(value)); }
void Marker::onPoint(const Member&, Eigen::Vector3d& value) {
    for (int i = 0; i < 3; ++i) eat(value[i]);
}
void Marker::onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) {
    eat(std::size_t(value.has_value()));
    if (value) onPoint(m, *value);
}
void Marker::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) {
    eat(value.size());
    for (Eigen::Vector3d& v : value) onPoint(m, v);
}
void Marker::onPoints(const Member&, std::vector<Eigen::Vector2d>& value) {
    eat(value.size());
    for (const Eigen::Vector2d& v : value) eat(v.x()), eat(v.y());
}
void Marker::onTexts(const Member&, std::vector<std::string>& value) {
    eat(value.size());
    for (const std::string& text : value) eat(text);
}
void Marker::onFigures(const Member&, std::map<std::string, double>& value) {
    eat(value.size());
    for (const auto& [name, figure] : value) eat(name), eat(figure);
}
void Marker::onChoice(const Member&, const Words&, int& place) { eat(std::size_t(place + 1)); }
void Marker::onObject(const Member&, Object& value) {
    eat(std::size_t(value.here()));
    if (value.here()) value.describe(*this);
}
void Marker::onList(const Member&, List& value) {
    eat(std::size_t(value.here()));
    eat(value.size());
    for (std::size_t i = 0; i < value.size(); ++i) value.describe(*this, i);
}
void Marker::onForms(const Member&, const Words&, Forms& value) {
    eat(value.now());
    value.describe(*this);
}
void Marker::onExtras(Extras& value) {
    eat(value.size());
    for (const auto& [name, text] : value) eat(name), eat(text);
}

} // namespace gabarit::describe
