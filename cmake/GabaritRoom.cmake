# gabarit_room(NAME fit SOURCES gap.cpp … USES shape proximity [PRIVATE_LIBS …] [PUBLIC_LIBS …])
#
# A room is a folder of core/, a namespace and a target of one name. Its headers are seen as
# "<room>/<header>.h", through a link that only the targets which use the room have on their
# include path: including a room that is not named under USES does not build.
function(gabarit_room)
  cmake_parse_arguments(ROOM "" "NAME" "SOURCES;USES;PRIVATE_LIBS;PUBLIC_LIBS" ${ARGN})
  set(target "gabarit_${ROOM_NAME}")
  set(door "${CMAKE_BINARY_DIR}/rooms/${ROOM_NAME}")
  file(MAKE_DIRECTORY "${door}")
  file(CREATE_LINK "${CMAKE_CURRENT_SOURCE_DIR}" "${door}/${ROOM_NAME}" SYMBOLIC)

  add_library(${target} STATIC ${ROOM_SOURCES})
  target_include_directories(${target} PUBLIC "${door}")
  foreach(used IN LISTS ROOM_USES)
    target_link_libraries(${target} PUBLIC gabarit_${used})
  endforeach()
  target_link_libraries(${target} PUBLIC ${ROOM_PUBLIC_LIBS} PRIVATE gabarit_settings ${ROOM_PRIVATE_LIBS})
  gabarit_tidy(${target})
endfunction()

function(gabarit_tidy target)
  if(GABARIT_TIDY)
    set_target_properties(${target} PROPERTIES CXX_CLANG_TIDY "${GABARIT_CLANG_TIDY};--quiet")
  endif()
endfunction()

# gabarit_embed(target VARIABLE file …): compiles data files into the target as
# `extern const char* const gabarit::embedded::<variable>`, so that a program finds them wherever it runs.
function(gabarit_embed target)
  set(list ${ARGN})
  while(list)
    list(POP_FRONT list variable file)
    set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS "${file}")
    file(READ "${file}" text)
    set(out "${CMAKE_CURRENT_BINARY_DIR}/embedded_${variable}.cpp")
    file(CONFIGURE OUTPUT "${out}" CONTENT
      "namespace gabarit::embedded { extern const char* const @variable@; const char* const @variable@ = R\"GABARIT(@text@)GABARIT\"; }\n" @ONLY)
    target_sources(${target} PRIVATE "${out}")
  endwhile()
endfunction()
