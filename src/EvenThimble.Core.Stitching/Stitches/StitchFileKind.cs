namespace EvenThimble.Core.Stitches;

/// <summary>The kinds of stitch file.</summary>
/// <param name="Id">Short name in addresses.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Extension">Ending of the file name, with the dot.</param>
/// <param name="MediaType">For downloads.</param>
public sealed record StitchFileKind(string Id, string Name, string Extension, string MediaType)
{
    /// <summary>The stitch file for older machines: no colours, steps of 0.1 mm.</summary>
    public static readonly StitchFileKind Evth1 = new("evth1", "Stitch file, revision 1", ".evth", "application/octet-stream");

    /// <summary>The stitch file with threads, roles and a picture.</summary>
    public static readonly StitchFileKind Evth2 = new("evth2", "Stitch file, revision 2", ".evth", "application/octet-stream");

    /// <summary>A table of stitches.</summary>
    public static readonly StitchFileKind Csv = new("csv", "CSV stitch table", ".csv", "text/csv");

    /// <summary>Stitches as a drawing.</summary>
    public static readonly StitchFileKind Svg = new("svg", "SVG stitch plan", ".svg", "image/svg+xml");

    /// <summary>Machine-tool commands.</summary>
    public static readonly StitchFileKind GCode = new("gcode", "G-code", ".gcode", "text/plain");
}
