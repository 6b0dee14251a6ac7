using EvenThimble.Web;

if (!Maintenance.IsAsked(args)) EvenThimbleHost.UseBuffersIn(args);
return await EvenThimbleHost.RunAsync(args);
