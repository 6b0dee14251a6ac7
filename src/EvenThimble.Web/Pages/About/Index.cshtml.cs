using System.Text.Json;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>What the program is, and whose work it stands on.</summary>
public sealed class AboutModel(IWebHostEnvironment environment) : PageModel
{
    /// <summary>A package, its licence by short name, and the licence's text where it ships with the package.</summary>
    public sealed record Package(string Name, string Version, string Licence, string Text);

    // Libraries of the server; those of the browser are listed by the script that brings them.
    private static readonly Package[] Server =
    [
        new("ASP.NET Core", "10.0", "MIT", string.Empty),
        new("Dapper", "2.1", "Apache-2.0", string.Empty),
        new("DbUp", "6.1", "MIT", string.Empty),
        new("Microsoft.Data.Sqlite", "10.0", "MIT", string.Empty),
        new("NetTopologySuite", "2.6", "BSD-3-Clause", string.Empty),
        new("Serilog", "10.0", "Apache-2.0", string.Empty),
        new("SkiaSharp", "4.155", "MIT", string.Empty),
        new("SQLite", "3", "public domain", string.Empty),
    ];

    public IReadOnlyList<Package> Licences { get; private set; } = [];

    public void OnGet()
    {
        var brought = environment.WebRootFileProvider.GetFileInfo("lib/licences.json");
        using var stream = brought.CreateReadStream();
        Licences = [.. JsonSerializer.Deserialize<List<Package>>(stream, JsonSerializerOptions.Web)!, .. Server];
    }
}
