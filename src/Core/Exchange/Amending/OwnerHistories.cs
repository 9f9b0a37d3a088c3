using System.Globalization;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Who changed what in an amended model, and when (ISO 16739-1, IfcOwnerHistory).</summary>
/// <remarks>IFC2X3 demands one of every rooted instance; later editions allow it, and get it too.</remarks>
/// <param name="editor">The model.</param>
/// <param name="time">The time of amendments that have none.</param>
internal sealed class OwnerHistories(ModelEditor editor, DateTime time)
{
    /// <summary>What the program calls itself in files.</summary>
    public const string Application = "Steady Lintel",
        Identifier = "SteadyLintel";

    /// <summary>The history of an instance that an amendment adds: a reference.</summary>
    public string Added(Amendment by)
    {
        var text = editor.Blank("IfcOwnerHistory");
        text["OwningUser"] = Person(by);
        text["OwningApplication"] = Program();
        text["State"] = ".READWRITE.";
        text["ChangeAction"] = ".ADDED.";
        text["LastModifiedDate"] = text["CreationDate"] = Seconds(by);
        return editor.Once(text);
    }

    /// <summary>The history of an instance that an amendment changes: a reference. Whoever owned it before still does.</summary>
    public string Modified(int root, Amendment by)
    {
        var text = editor.Blank("IfcOwnerHistory");
        int before = editor.Model.Ref(root, "OwnerHistory");
        foreach (string kept in (string[])["OwningUser", "OwningApplication", "State", "CreationDate"])
            if (before >= 0)
                text[kept] = editor.Peek(before, kept);
        if (text["OwningUser"] == "$")
            text["OwningUser"] = Person(by);
        if (text["OwningApplication"] == "$")
            text["OwningApplication"] = Program();
        if (text["CreationDate"] == "$")
            text["CreationDate"] = Seconds(by);
        if (text["State"] == "$")
            text["State"] = ".READWRITE.";
        text["ChangeAction"] = ".MODIFIED.";
        text["LastModifiedDate"] = Seconds(by);
        text["LastModifyingUser"] = Person(by);
        text["LastModifyingApplication"] = Program();
        return editor.Once(text);
    }

    private string Person(Amendment by)
    {
        string author = by.By is { Length: > 0 } name ? name : Application,
            party = by.Party is { Length: > 0 } code ? code : author;
        var person = editor.Blank("IfcPerson");
        person["FamilyName"] = StepWriter.String(author);
        var both = editor.Blank("IfcPersonAndOrganization");
        both["ThePerson"] = editor.Once(person);
        both["TheOrganization"] = Organization(party);
        return editor.Once(both);
    }

    private string Organization(string name)
    {
        var text = editor.Blank("IfcOrganization");
        text["Name"] = StepWriter.String(name);
        return editor.Once(text);
    }

    // An application is in a file once (ISO 16739-1, IfcApplication, UR1).
    private string Program()
    {
        foreach (int known in editor.Model.OfType("IfcApplication"))
            if (editor.Model.Text(known, "ApplicationIdentifier") == Identifier)
                return editor.Ref(known);
        var text = editor.Blank("IfcApplication");
        text["ApplicationDeveloper"] = Organization(Application);
        text["Version"] = "'1'";
        text["ApplicationFullName"] = $"'{Application}'";
        text["ApplicationIdentifier"] = $"'{Identifier}'";
        return editor.Once(text);
    }

    private string Seconds(Amendment by) =>
        ((long)((by.At ?? time).ToUniversalTime() - DateTime.UnixEpoch).TotalSeconds).ToString(
            CultureInfo.InvariantCulture
        );
}
