// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/StepFile.h"

#include "base/Versions.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_Printer.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Controller.hxx>
#include <Standard_Failure.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDF_ChildIterator.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <algorithm>
#include <cctype>
#include <cmath>
#include <gp_Trsf.hxx>
#include <pwd.h>
#include <unistd.h>

namespace kiln
{
namespace
{

constexpr double millimetre = 1e-3; // m

Handle(TDocStd_Document) newDocument()
{
  Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_Printer)); // what counts is said by us
  STEPControl_Controller::Init();
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("MDTV-XCAF", document);
  return document;
}

std::string nameOf(const TDF_Label& label)
{
  Handle(TDataStd_Name) name;
  if (!label.FindAttribute(TDataStd_Name::GetID(), name))
    return {};
  const TCollection_ExtendedString& wide = name->Get();
  std::string text(static_cast<std::size_t>(wide.LengthOfCString()) + 1, '\0');
  char* bytes = text.data();
  text.resize(static_cast<std::size_t>(wide.ToUTF8CString(bytes)));
  return text;
}

/// With its placement in its geometry: the writer loses the colours of shapes that are placed.
TopoDS_Shape scaled(const TopoDS_Shape& shape, double factor)
{
  gp_Trsf scale;
  scale.SetScale(gp_Pnt(0, 0, 0), factor);
  return BRepBuilderAPI_Transform(shape.Located({}), scale * shape.Location().Transformation(), true).Shape();
}

bool allAlike(const std::vector<TopoDS_Shape>& solids)
{
  constexpr double share = 1e-6;
  const auto volume = [](const TopoDS_Shape& solid) {
    GProp_GProps properties;
    BRepGProp::VolumeProperties(solid, properties);
    return properties.Mass();
  };
  const double first = volume(solids.front());
  return first > 0 && std::all_of(solids.begin(), solids.end(), [&](const TopoDS_Shape& solid) {
           return std::abs(volume(solid) - first) <= share * first;
         });
}

/// Names a writer makes up, a number or the kind of shape, say nothing.
bool saysNothing(const std::string& name)
{
  return name.empty() || name == "COMPOUND" || name == "SOLID" ||
         std::all_of(name.begin(), name.end(), [](unsigned char letter) { return std::isdigit(letter) != 0; });
}

/// Walks an assembly and gathers its solids where they are placed.
class SolidWalk
{
public:
  explicit SolidWalk(Handle(XCAFDoc_ColorTool) colours) : colours_(std::move(colours)) {}

  std::vector<NamedShape> found;

  /// \param given  name of what it belongs to
  /// \param above  its colour
  void enter(const TDF_Label& label, const TopLoc_Location& place, const std::string& given, const std::string& above)
  {
    const std::string colour = colourOf(label, above);
    TDF_Label referred;
    const TopLoc_Location here = place * XCAFDoc_ShapeTool::GetLocation(label);
    const std::string own = nameOf(label);
    if (XCAFDoc_ShapeTool::GetReferredShape(label, referred))
      return enterShape(referred, here, saysNothing(own) ? nameOf(referred) : own, colourOf(referred, colour));
    enterShape(label, place, given.empty() ? own : given, colour);
  }

private:
  /// Components that are only pieces of one part: shapes without a name of their own.
  static bool isNameless(const TDF_LabelSequence& components)
  {
    for (int i = 1; i <= components.Length(); ++i) {
      TDF_Label referred;
      const bool refers = XCAFDoc_ShapeTool::GetReferredShape(components.Value(i), referred);
      if (!saysNothing(nameOf(components.Value(i))) || !refers || !saysNothing(nameOf(referred)) ||
          XCAFDoc_ShapeTool::IsAssembly(referred))
        return false;
    }
    return true;
  }

  /// The colour of a component or a shape, or that of what it belongs to.
  [[nodiscard]] std::string colourOf(const TDF_Label& label, const std::string& above) const
  {
    Quantity_Color colour;
    for (const XCAFDoc_ColorType kind : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen})
      if (colours_->GetColor(label, kind, colour))
        return Quantity_Color::ColorToHex(colour).ToCString();
    return above;
  }
  /// The same of a solid, or of its first face that has one.
  [[nodiscard]] std::string colourOf(const TopoDS_Shape& solid, const std::string& above) const
  {
    Quantity_Color colour;
    const auto own = [&](const TopoDS_Shape& shape) {
      return colours_->GetColor(shape, XCAFDoc_ColorSurf, colour) ||
             colours_->GetColor(shape, XCAFDoc_ColorGen, colour);
    };
    bool found = own(solid);
    for (TopExp_Explorer faces(solid, TopAbs_FACE); !found && above.empty() && faces.More(); faces.Next())
      found = own(faces.Current());
    return found ? Quantity_Color::ColorToHex(colour).ToCString() : above;
  }

  void enterShape(const TDF_Label& label, const TopLoc_Location& place, const std::string& name,
                  const std::string& colour)
  {
    TDF_LabelSequence components;
    XCAFDoc_ShapeTool::GetComponents(label, components);
    if (XCAFDoc_ShapeTool::IsAssembly(label) && !isNameless(components)) {
      for (int i = 1; i <= components.Length(); ++i)
        enter(components.Value(i), place, {}, colour);
      return;
    }
    const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
    std::vector<TopoDS_Shape> solids;
    for (TopExp_Explorer solid(shape, TopAbs_SOLID); solid.More(); solid.Next())
      solids.push_back(solid.Current());
    for (TopExp_Explorer shell(shape, TopAbs_SHELL, TopAbs_SOLID); shell.More(); shell.Next())
      solids.push_back(shell.Current());
    for (TopExp_Explorer face(shape, TopAbs_FACE, TopAbs_SHELL); face.More(); face.Next())
      solids.push_back(face.Current());
    const std::string base = name.empty() ? "Body" : name;
    if (solids.size() > 1 && allAlike(solids)) { // copies of one body are one part
      TopoDS_Compound all;
      const BRep_Builder builder;
      builder.MakeCompound(all);
      for (const TopoDS_Shape& solid : solids)
        builder.Add(all, solid);
      solids = {all};
    }
    for (std::size_t i = 0; i < solids.size(); ++i)
      found.push_back({solids.size() == 1 ? base : base + " " + std::to_string(i + 1),
                       scaled(solids[i].Moved(place), millimetre),
                       {},
                       {},
                       colourOf(solids[i], colour)});
  }

  Handle(XCAFDoc_ColorTool) colours_;
};

} // namespace

Expected<std::vector<NamedShape>> readStep(const std::filesystem::path& path, const Progress& progress)
{
  const auto refused = [&](const std::string& problem) {
    return failure(Failure::Kind::Unreadable, "file " + path.filename().string(), problem,
                   "Write it again as STEP (AP203, AP214 or AP242).");
  };
  try {
    Handle(TDocStd_Document) document = newDocument();
    Interface_Static::SetCVal("xstep.cascade.unit", "MM");
    STEPCAFControl_Reader reader;
    reader.SetNameMode(true);
    reader.SetColorMode(true);
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone)
      return refused("It is not a STEP file that can be read.");
    progress("read", 0.15, "translating its shapes");
    if (!reader.Transfer(document))
      return refused("Its shapes could not be translated.");
    SolidWalk walk(XCAFDoc_DocumentTool::ColorTool(document->Main()));
    TDF_LabelSequence roots;
    XCAFDoc_DocumentTool::ShapeTool(document->Main())->GetFreeShapes(roots);
    for (int i = 1; i <= roots.Length(); ++i)
      walk.enter(roots.Value(i), {}, {}, {});
    return walk.found;
  } catch (const Standard_Failure&) {
    return refused("It holds shapes that the geometry kernel cannot read.");
  }
}

namespace
{

/// The name of whoever runs the program, as the system knows it.
std::string userName()
{
  const passwd* own = ::getpwuid(::getuid());
  if (own == nullptr)
    return {};
  const std::string full = own->pw_gecos != nullptr ? own->pw_gecos : "";
  const std::string name = full.substr(0, full.find(','));
  return name.empty() ? std::string(own->pw_name) : name;
}

/// Says who wrote the file and with what, instead of what the kernel says of itself.
void signHeader(STEPCAFControl_Writer& writer, const std::filesystem::path& path)
{
  APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
  const auto text = [](const std::string& words) {
    return Handle(TCollection_HAsciiString)(new TCollection_HAsciiString(words.c_str()));
  };
  header.SetName(text(path.filename().string()));
  header.SetAuthorValue(1, text(userName()));
  header.SetOrganizationValue(1, text(""));
  header.SetOriginatingSystem(text("Usual Kiln " + ownVersion()));
  header.SetPreprocessorVersion(text("Usual Kiln " + ownVersion()));
  header.SetAuthorisation(text(""));
  header.SetDescriptionValue(1, text("Parts of a Usual Kiln project"));
}

} // namespace

Expected<void> writeStep(const std::vector<NamedShape>& shapes, const std::filesystem::path& path)
{
  const auto refused = failure(Failure::Kind::Unwritable, "file " + path.string(), "It could not be written.",
                               "Check that the folder exists and the disk has space.");
  try {
    const Handle(TDocStd_Document) document = newDocument();
    Interface_Static::SetCVal("xstep.cascade.unit", "MM");
    Interface_Static::SetCVal("write.step.unit", "MM");
    const Handle(XCAFDoc_ShapeTool) tool = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    for (const NamedShape& named : shapes) {
      TopoDS_Shape shape = scaled(named.shape, 1 / millimetre);
      TopExp_Explorer solid(shape, TopAbs_SOLID);
      const TopoDS_Shape only = solid.More() ? solid.Current() : shape;
      if (solid.More())
        solid.Next();
      const TDF_Label label = tool->AddShape(solid.More() ? shape : only, false);
      TDataStd_Name::Set(label, TCollection_ExtendedString(named.name.c_str(), true));
      if (Quantity_Color colour; Quantity_Color::ColorFromHex(named.colour.c_str(), colour))
        XCAFDoc_DocumentTool::ColorTool(document->Main())->SetColor(label, colour, XCAFDoc_ColorSurf);
    }
    STEPCAFControl_Writer writer;
    writer.SetNameMode(true);
    writer.SetColorMode(true);
    const bool transferred = writer.Transfer(document, STEPControl_AsIs);
    if (transferred)
      signHeader(writer, path);
    if (!transferred || writer.Write(path.c_str()) != IFSelect_RetDone)
      return refused;
    return {};
  } catch (const Standard_Failure&) {
    return refused;
  }
}

} // namespace kiln
