#include "clutch/section/clutch.h"

namespace gabarit::clutch {

using describe::Member;

void describe(describe::Visitor& v, Clutch& clutch) {
    constexpr double most_faces = 40, strongest_n = 1e6, strongest_nm = 1e5;
    v.type("clutch");
    v.number(Member("outer_mm", "of its lining, outside").said("Lining, outside").size(), clutch.outer_mm);
    v.number(Member("inner_mm", "of its lining, inside").said("Lining, inside").size(), clutch.inner_mm);
    v.number(Member("clamp_n", "with which the cover presses").said("Cover presses with").over(0, strongest_n),
             clutch.clamp_n);
    v.number(Member("faces", "linings that rub").said("Linings that rub").within(1, most_faces).leftOut(2),
             clutch.faces);
    v.number(Member("friction", "left out: the rule book's").said("Friction").over(0, 1), clutch.friction);
    v.number(Member("torque_nm", "the engine's most; left out: the highest of `gearing`")
                 .said("Engine's torque")
                 .over(0, strongest_nm),
             clutch.torque_nm);
    v.text(Member("source").said("Says who"), clutch.source);
    v.extras(clutch.extras);
}

model::SectionKind section() {
    return model::sectionKind<Clutch>("clutch", "whether it holds the engine's torque", 110);
}

} // namespace gabarit::clutch
